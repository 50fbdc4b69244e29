import { refused, type Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import type { Database } from "../db/connect";
import { notify } from "../events/events";
import { standingFacts } from "../facts/standing";
import { recountRound } from "../change/countRound";
import { t } from "../texts/t";
import { findOpen, storeVersion } from "./queries";
import { lockRounds } from "../change/roundQueries";
import { decideByKeys, decideChosen, type ChosenCauses } from "./causeQueries";

/**
 * Accepts or holds causes of the open round, by their keys or all that a choice means, and counts it again.
 *
 * Refused with 409 when that round is no longer open, or none of the causes is in it any more.
 */
export async function decide(
  db: Database,
  wanted: {
    round: number;
    causes: readonly string[] | Omit<ChosenCauses, "number">;
    decision: "accepted" | "held";
  },
): Promise<{ version: number } | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const open = await findOpen(tx, wanted.round);
    if (open === undefined)
      return refused(409, "round/done", t("rounds.roundIsNoLongerOpen", { round: wanted.round }));
    const stand = await standingFacts(tx, open.seasonId);
    const { causes, decision } = wanted;
    if (!isKeys(causes)) await decideChosen(tx, decision, { ...causes, number: open.number });
    else if ((await decideByKeys(tx, decision, causes, open.number)) === 0)
      return refused(
        409,
        "round/moved-on",
        t("rounds.changesNoLongerInRound", { round: wanted.round }),
      );
    const version = open.version + 1;
    await storeVersion(tx, version, open.number);
    await recountRound(tx, open, stand);
    await notify(tx, "rounds");
    return { version };
  });
}

function isKeys(causes: readonly string[] | object): causes is readonly string[] {
  return Array.isArray(causes);
}

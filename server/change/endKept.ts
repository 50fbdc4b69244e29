import { factKey } from "@amigo/core/facts/fact";
import { LayeredMap } from "@amigo/core/facts/layeredMap";
import { findCauses } from "@amigo/core/step/findCauses";
import { planRound } from "@amigo/core/step/planRound";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { standingFacts } from "../facts/standing";
import { record } from "../events/record";
import { carryOut, type Actor } from "./carryOut";
import { sumChanges } from "@amigo/core/step/netChanges";
import { openRound } from "./openRound";
import { storeDone } from "./storeDone";
import { t } from "../texts/t";
import type { RoundTotals } from "../db/schema/rounds";
import { loadCurrentSeason } from "../db/houseQueries";

/**
 * Ends, as a round of its own that can be taken back, that some addresses are kept on lists until a day that is over. Call it in a
 * transaction that holds the lock of rounds. Returns the round, or undefined where none of it stands any more.
 *
 * @param places lists by their keys, with an address and the last day that was agreed on; a later day by hand goes before it
 */
export async function endKept(
  tx: Queries,
  actor: Actor,
  places: readonly { key: string; address: string; lastDay: string }[],
): Promise<{ round: number; leaves: number } | undefined> {
  const current = await loadCurrentSeason(tx);
  if (current === undefined || places.length === 0) return undefined;
  const stand = await standingFacts(tx, current.id);
  const facts = new LayeredMap(stand);
  for (const { key, address, lastDay } of places) {
    const found = stand.get(factKey({ subject: key, kind: "kept", ref: address }));
    if (found?.kind === "kept" && found.value.side === "on" && found.value.lastDay === lastDay)
      facts.delete(factKey(found));
  }
  const causes = findCauses(stand, facts);
  if (causes.length === 0) return undefined;
  const { changes } = planRound(stand, causes);
  const totals: RoundTotals = {
    ...sumChanges(causes.flatMap(({ key }) => changes.get(key) ?? [])).counts,
    accepted: causes.length,
    held: 0,
  };
  const round = await storeDone(tx, actor, { seasonId: current.id, causes, changes, totals });
  const done = await carryOut(
    tx,
    actor,
    { round, seasonId: current.id, words: () => t("rounds.roundLastDaysThatAre", { round }) },
    stand,
    facts,
  );
  await record(tx, {
    actorId: actor.id,
    actor: actor.name,
    action: "last day",
    sentence: () =>
      t("rounds.roundLeftAsTheirLast", { round, leaves: done.leaves, lists: done.lists }),
    after: { round, places },
  });
  await openRound(tx);
  await notify(tx, "rounds", "board", "people");
  return { round, leaves: done.leaves };
}

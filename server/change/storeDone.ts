import { say } from "@amigo/language/say";
import type { Cause } from "@amigo/core/step/cause";
import type { Change } from "@amigo/core/step/change";
import type { Queries } from "../db/connect";
import type { Actor } from "./carryOut";
import { sumChanges } from "@amigo/core/step/netChanges";
import { describeCause } from "./storeCauses";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import type { RoundTotals } from "../db/schema/rounds";
import { storeRound, storeRoundLists } from "./roundQueries";
import { storeCauseRows } from "./causeQueries";

/** A round that is decided and carried out in one go, as it is written down. */
export interface DoneRound {
  seasonId: number;
  causes: readonly Cause[];
  changes: ReadonlyMap<string, Change[]>;
  totals: RoundTotals;
  /** The round that it takes back, with what is left alone. */
  takesBack?: { round: number; leftAlone: string[] };
  /** The season that was current before it. */
  opensAfter?: number;
}

/** Writes down a round that nobody had to wait for: an edit, a season's beginning, a taking back. Returns its number. */
export async function storeDone(
  tx: Queries,
  actor: Actor,
  { seasonId, causes, changes, totals, takesBack, opensAfter }: DoneRound,
): Promise<number> {
  const made = await storeRound(
    tx,
    seasonId,
    totals,
    actor.id,
    actor.name,
    takesBack?.round,
    takesBack?.leftAlone,
    opensAfter,
  );
  if (made === undefined) throw new Error("the round was not made");
  const history =
    takesBack === undefined
      ? ""
      : inStaffLanguage(() => t("rounds.takesBackRound", { round: takesBack.round }));
  const rows = causes.map((cause, position) => ({
    ...cause,
    ...inStaffLanguage(() => ({
      title: say(cause.title),
      detail: say(cause.detail),
      sentence: say(cause.sentence),
    })),
    ...describeCause(cause, changes.get(cause.key) ?? []),
    round: made.number,
    position,
    changes: changes.get(cause.key) ?? [],
    decision: "accepted" as const,
    history,
  }));
  for (let at = 0; at < rows.length; at += 1000) await storeCauseRows(tx, rows, at);
  const lists = [...sumChanges([...changes.values()].flat()).byList].map(([list, counts]) => ({
    round: made.number,
    list,
    ...counts,
  }));
  for (let at = 0; at < lists.length; at += 5000) await storeRoundLists(tx, lists, at);
  return made.number;
}

import { createHash } from "node:crypto";
import { inStaffLanguage } from "../texts/inLanguage";
import { eq } from "drizzle-orm";
import type { Facts } from "@amigo/core/facts/fact";
import { sharedIndex } from "@amigo/core/facts/indexFacts";
import type { Cause } from "@amigo/core/step/cause";
import { planRound } from "@amigo/core/step/planRound";
import type { Change } from "@amigo/core/step/change";
import type { Queries } from "../db/connect";
import { copyInto, type CopyValue } from "../db/copyInto";
import { standingFacts } from "../facts/standing";
import { sharedAddresses } from "@amigo/core/identity/sharedAddresses";
import { sumChanges, type ChangeSum } from "@amigo/core/step/netChanges";
import { canShare, guardStep, sourcesBefore } from "./guardStep";
import { type RoundTotals, round } from "../db/schema/rounds";
import { findOpenOf, storeNextVersion, removeRoundLists, keepDerived } from "./roundQueries";
import { listCauses, storeListUpdates } from "./causeQueries";
import { countKind, listsOf, type Decision } from "./storeCauses";

/**
 * Counts the open round again after other decisions, and writes down what each cause does by now.
 *
 * @param stand the facts as they stand
 */
export async function recountRound(
  tx: Queries,
  open: { number: number; seasonId: number },
  stand: Facts,
): Promise<void> {
  const rows = await listCauses(tx, open.number);
  const changes = await countRound(tx, { ...open, stand, rows });
  const updates = rows.flatMap(({ position, key, hash }) => {
    const change = changes.get(key) ?? [];
    const written = JSON.stringify(change);
    // Of tens of thousands of causes, a decision changes what a few of them do.
    if (hashOf(written) === hash) return [];
    return {
      position,
      changes: written,
      joins: countKind(change, "joins"),
      leaves: countKind(change, "leaves"),
      replaced: countKind(change, "replaced"),
      lists: listsOf(change).join("\n"),
    };
  });
  await storeListUpdates(tx, updates, open.number);
}

/** Counts the open round of a season again, where there is one, after a change by hand that was taken into account already. */
export async function recountOpen(tx: Queries, seasonId: number): Promise<void> {
  const open = await findOpenOf(tx, seasonId);
  if (open !== undefined) {
    await storeNextVersion(tx, open.version, open.number);
    await recountRound(tx, open, await standingFacts(tx, seasonId));
  }
  await keepDerived(tx, seasonId);
}

/**
 * Works out what every cause of a round does, as it is decided now: the changes of each, the totals of what is
 * accepted, the difference of every list, and the guards that stand.
 */
export async function countRound(
  tx: Queries,
  {
    number,
    seasonId,
    stand,
    rows,
  }: {
    number: number;
    seasonId: number;
    stand: Facts;
    rows: readonly (Cause & { decision: Decision })[];
  },
): Promise<ReadonlyMap<string, Change[]>> {
  const accepted = rows.filter(({ decision }) => decision === "accepted");
  const held = rows.filter(({ decision }) => decision === "held");
  const standing = sharedIndex(stand);
  let shared: ReadonlyMap<string, number> = new Map();
  const { changes, index } = planRound(stand, accepted, held, (halfway) => {
    if (canShare(accepted)) shared = sharedAddresses(halfway);
  });
  const sumOf = (causes: readonly Cause[]): ChangeSum =>
    sumChanges(causes.flatMap(({ key }) => changes.get(key) ?? []));
  const sum = sumOf(accepted);
  const { byList } = held.length === 0 ? sum : sumOf(rows);
  await removeRoundLists(tx, number);
  await copyInto(
    tx,
    "round_list (round, list, joins, leaves)",
    [...byList].map(([key, { joins, leaves }]): CopyValue[] => [number, key, joins, leaves]),
  );
  const totals: RoundTotals = {
    ...sum.counts,
    accepted: accepted.length,
    held: held.length,
  };
  await tx
    .update(round)
    .set({
      totals,
      // Stored, so in the language of the house.
      guards: await inStaffLanguage(async () =>
        guardStep(
          tx,
          seasonId,
          { sum, causes: accepted, standing, all: index, shared: () => shared },
          await sourcesBefore(tx, seasonId),
        ),
      ),
    })
    .where(eq(round.number, number));
  return changes;
}

function hashOf(text: string): string {
  return createHash("md5").update(text).digest("hex");
}

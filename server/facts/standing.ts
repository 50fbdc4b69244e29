import { and, eq, inArray, or, sql, type SQL } from "drizzle-orm";
import { factKey, type Fact, type Facts } from "@amigo/core/facts/fact";
import { indexFacts } from "@amigo/core/facts/indexFacts";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import type { Queries } from "../db/connect";
import { factColumns, heldAt, loadFacts } from "./queries";
import { season } from "../db/schema/house";
import { fact } from "../db/schema/people";

/** Returns what stands now in a season. */
type Load<Value> = (db: Queries, seasonId: number) => Promise<Value>;

const FORGET: (() => void)[] = [];

/**
 * Returns a way to load something of a season that keeps what was loaded until the season's version changes. Who asks while it is
 * being loaded waits for that, and nothing is loaded twice at once.
 *
 * @param most of how many seasons it is kept
 */
function keptAtHand<Value>(load: Load<Value>, most: number): Load<Value> {
  const atHand = new Map<number, { version: number; value: Promise<Value> }>();
  FORGET.push(() => atHand.clear());
  return async (db, seasonId) => {
    const [found] = await db
      .select({
        version: season.version,
        writing: sql<string | null>`pg_current_xact_id_if_assigned()::text`,
      })
      .from(season)
      .where(eq(season.id, seasonId));
    // What a transaction has written may still be undone, and its version come again with other facts.
    if (found?.writing !== null) return load(db, seasonId);
    const { version } = found;
    const known = atHand.get(seasonId);
    if (known?.version === version)
      // Whoever was loading may have been stopped; that is no reason for others to fail.
      return known.value.catch(() => load(db, seasonId));
    const value = load(db, seasonId);
    const entry = { version, value };
    atHand.delete(seasonId);
    atHand.set(seasonId, entry);
    for (const other of atHand.keys()) if (atHand.size > most) atHand.delete(other);
    value.catch(() => {
      if (atHand.get(seasonId) === entry) atHand.delete(seasonId);
    });
    return value;
  };
}

/** Returns everybody of a season as they stand now. Not to be changed. */
export const standingIndex = keptAtHand(
  async (db, seasonId) => indexFacts(await loadFacts(db, seasonId)),
  2,
);

/**
 * Returns the facts of a season as they stand now, for work that is done again and again on the same facts. Not to be
 * changed. A transaction has them at hand as long as it hasn't written anything.
 */
export const standingFacts: Load<Facts> = keptAtHand(loadFacts, 1);

/** Forgets everybody: what is at hand belongs to the database that it came from. */
export function forgetStanding(): void {
  for (const forget of FORGET) forget();
}

/** Recipes, short forms, house rules and classes of a season, and what is wanted of its lists, or of one: everything but people. */
export async function houseIndex(
  db: Queries,
  seasonId: number,
  of: { list?: string; instant?: Date | undefined } = {},
): Promise<FactIndex> {
  const lists: SQL | undefined =
    of.list === undefined
      ? inArray(fact.kind, ["list", "alias", "exemption"])
      : and(inArray(fact.kind, ["list", "alias", "exemption"]), eq(fact.subject, of.list));
  const rows = (await db
    .select(factColumns)
    .from(fact)
    .where(
      and(
        eq(fact.seasonId, seasonId),
        heldAt(of.instant),
        or(
          inArray(fact.kind, ["recipe", "short", "cohort", "bound", "invariant", "preset"]),
          lists,
        ),
      ),
    )) as Fact[];
  return indexFacts(new Map(rows.map((row) => [factKey(row), row])));
}

import { and, eq, inArray, or, type SQL } from "drizzle-orm";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { indexFacts, sharedIndex } from "@amigo/core/facts/indexFacts";
import type { Queries } from "../db/connect";
import { fact } from "../db/schema/people";
import { keepFacts, type LoadFacts } from "./keepFacts";
import { factColumns, heldAt, loadFacts, loadFactsAlone } from "./queries";

const whole = keepFacts(loadFacts);
const alone = keepFacts(loadFactsAlone);

/**
 * Returns the facts of a season as they stand now, each with where it comes from. Not to be changed. They stay at hand, and only what has
 * changed is fetched again.
 */
export const standingFacts: LoadFacts = whole.load;

/** Takes what the facts of a season are from now on, in a transaction that has stored them, so that they needn't be fetched again. */
export const expectFacts = whole.expect;

/** Returns everybody of a season as they stand now. Not to be changed. Who needs nothing more keeps no origins at hand. */
export async function standingIndex(db: Queries, seasonId: number): Promise<FactIndex> {
  return sharedIndex(await (whole.holds(seasonId) ? whole : alone).load(db, seasonId));
}

/**
 * Returns everybody of a season as they stand now, where they are at hand already, or can be with what has changed since; undefined
 * where all of them would have to be fetched. Not to be changed.
 */
export async function indexAtHand(db: Queries, seasonId: number): Promise<FactIndex | undefined> {
  return whole.holds(seasonId) || alone.holds(seasonId) ? standingIndex(db, seasonId) : undefined;
}

/** Forgets everybody: what is at hand belongs to the database that it came from. */
export function forgetStanding(): void {
  whole.forget();
  alone.forget();
}

/**
 * Returns what `houseIndex` does for now, without asking where everybody is at hand; people are in it then, too. Not to be changed.
 *
 * @param list the only list about which something is asked
 */
export async function houseAtHand(
  db: Queries,
  seasonId: number,
  list?: string,
): Promise<FactIndex> {
  return (
    (await indexAtHand(db, seasonId)) ??
    houseIndex(db, seasonId, list === undefined ? {} : { list })
  );
}

/** Fetches recipes, short forms, house rules and classes of a season, and what is wanted of its lists, or of one: everything but people. */
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

import { and, eq, inArray, or, sql, type SQL } from "drizzle-orm";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import { indexFacts } from "@amigo/core/facts/indexFacts";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import type { Queries } from "../db/connect";
import { factColumns, heldAt, loadFacts } from "./queries";
import { season } from "../db/schema/house";
import { fact } from "../db/schema/people";

/** How many seasons' people are kept at hand. */
const KEPT = 2;
const AT_HAND = new Map<number, { version: number; index: FactIndex }>();

/** Everybody of a season as they stand now, kept at hand until something changes. Not to be changed. */
export async function standingIndex(db: Queries, seasonId: number): Promise<FactIndex> {
  const [found] = await db
    .select({
      version: season.version,
      writing: sql<string | null>`pg_current_xact_id_if_assigned()::text`,
    })
    .from(season)
    .where(eq(season.id, seasonId));
  const version = found?.version ?? 0;
  const known = AT_HAND.get(seasonId);
  // What a transaction has written may still be undone, and its version come again with other facts.
  const isSettled = found?.writing === null;
  if (isSettled && known?.version === version) return known.index;
  const index = indexFacts(await loadFacts(db, seasonId));
  if (!isSettled) return index;
  AT_HAND.delete(seasonId);
  AT_HAND.set(seasonId, { version, index });
  for (const other of AT_HAND.keys()) if (AT_HAND.size > KEPT) AT_HAND.delete(other);
  return index;
}

/** Forgets everybody: what is at hand belongs to the database that it came from. */
export function forgetStanding(): void {
  AT_HAND.clear();
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

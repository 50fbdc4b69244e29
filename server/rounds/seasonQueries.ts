import { eq, and, isNull, sql, gt } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { season } from "../db/schema/house";
import { list, cohort } from "../db/schema/lists";
import { fact } from "../db/schema/people";
import { round } from "../db/schema/rounds";

/** Returns the season with a label. */
export async function findSeasonLabelled(db: Queries, label: string) {
  const [found] = await db.select().from(season).where(eq(season.label, label));
  return found;
}

/** Closes the open round without carrying it out. */
export async function dropOpenRound(db: Queries): Promise<void> {
  await db
    .update(round)
    .set({ state: "dropped", closedAt: sql`clock_timestamp()` })
    .where(eq(round.state, "open"));
}

/** Ends a season. */
export async function endSeason(db: Queries, today: string, seasonId: number): Promise<void> {
  await db.update(season).set({ current: false, overOn: today }).where(eq(season.id, seasonId));
}

/** Makes a season and makes it the current one. */
export function storeSeason(db: Queries, label: string) {
  return db.insert(season).values({ label, current: true }).returning({ id: season.id });
}

/** Makes a season the current one again. */
export function makeCurrent(db: Queries, seasonId: number) {
  return db
    .update(season)
    .set({ current: true })
    .where(eq(season.id, seasonId))
    .returning({ id: season.id });
}

/** Closes the lists of a season, and stores which lists follow them. */
export async function closeLists(
  db: Queries,
  number: number,
  successors: string,
  seasonId: number,
): Promise<void> {
  await db.execute(
    sql`update list set closed_at = now(), closed_round = ${number}, successor_key = coalesce((select new.successor from json_to_recordset(${successors}::json) as new(key text, successor text) where new.key = list.key), '') where season_id = ${seasonId} and closed_at is null`,
  );
}

/** Lists the open lists of a season that no recipe made. */
export function listListsByHand(db: Queries, seasonId: number) {
  return db
    .select({ key: list.key })
    .from(list)
    .where(and(eq(list.seasonId, seasonId), isNull(list.recipeId), isNull(list.closedAt)));
}

/** Frees the names of a season's lists. */
export async function releaseNames(db: Queries, seasonId: number): Promise<void> {
  await db.execute(
    sql`update list_address set released = true from list where list.id = list_address.list_id and list.season_id = ${seasonId}`,
  );
}

/** Closes all lists of a season. */
export async function closeSeasonLists(db: Queries, seasonId: number): Promise<void> {
  await db
    .update(list)
    .set({ closedAt: sql`clock_timestamp()` })
    .where(and(eq(list.seasonId, seasonId), isNull(list.closedAt)));
}

/** Stores that the classes of a season are no longer there. */
export async function markSeasonCohortsGone(db: Queries, seasonId: number): Promise<void> {
  await db
    .update(cohort)
    .set({ goneAt: sql`now()` })
    .where(eq(cohort.seasonId, seasonId));
}

/** Stores that a season is neither current nor over. */
export async function unopenSeason(db: Queries, seasonId: number): Promise<void> {
  await db.update(season).set({ current: false, overOn: null }).where(eq(season.id, seasonId));
}

/** Makes a season that was over the current one again. */
export async function reopenSeason(db: Queries, seasonId: number): Promise<void> {
  await db
    .update(season)
    .set({ current: true, overOn: null, version: sql`${season.version} + 1` })
    .where(eq(season.id, seasonId));
}

/** Opens the lists again that the opening of the next season closed, and returns them. */
export function reopenLists(db: Queries, seasonId: number, openingRound: number) {
  return db
    .update(list)
    .set({ closedAt: null, closedRound: null, successorKey: "" })
    .where(and(eq(list.seasonId, seasonId), eq(list.closedRound, openingRound)))
    .returning({ id: list.id });
}

/** Lists the rounds of a season after one that were not undone. */
export function listRoundsAfter(db: Queries, seasonId: number, openingRound: number) {
  return db
    .select({ number: round.number })
    .from(round)
    .where(
      and(
        eq(round.seasonId, seasonId),
        eq(round.state, "done"),
        gt(round.number, openingRound),
        isNull(round.takesBack),
        sql`not exists (select 1 from round taking where taking.takes_back = ${round.number})`,
      ),
    )
    .orderBy(round.number);
}

/** Returns any fact of a season. */
export async function findAnyFact(db: Queries, seasonId: number) {
  const [found] = await db
    .select({ id: fact.id })
    .from(fact)
    .where(eq(fact.seasonId, seasonId))
    .limit(1);
  return found;
}

/** Counts the lists of a season that a round has closed. */
export async function countClosedBy(db: Queries, seasonId: number, openingRound: number) {
  const [found] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(list)
    .where(and(eq(list.seasonId, seasonId), eq(list.closedRound, openingRound)));
  return found;
}

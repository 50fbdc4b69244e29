import { and, eq, sql, lt, desc, inArray, isNull } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { list } from "../db/schema/lists";
import { round } from "../db/schema/rounds";
import { source, reading } from "../db/schema/sources";
import { alias } from "drizzle-orm/pg-core";

export const taking = alias(round, "taking");

const roundColumns = {
  number: round.number,
  seasonId: round.seasonId,
  state: round.state,
  version: round.version,
  openedAt: round.openedAt,
  closedAt: round.closedAt,
  totals: round.totals,
  guards: round.guards,
  readings: round.readings,
  closedByName: round.closedByName,
  takesBack: round.takesBack,
  leftAlone: round.leftAlone,
  takenBackBy: sql<
    number | null
  >`(select ${taking.number} from ${round} taking where ${taking.takesBack} = ${round.number})`,
};

/** Stores that a round was carried out, and by whom. */
export async function markDone(
  db: Queries,
  by: string | null,
  name: string,
  number: number,
): Promise<void> {
  await db
    .update(round)
    .set({
      state: "done",
      closedAt: sql`clock_timestamp()`,
      closedBy: by,
      closedByName: by === null ? name : "",
    })
    .where(eq(round.number, number));
}

/** Returns a round, and who has closed it. */
export async function findRoundWithCloser(db: Queries, number: number) {
  const [found] = await db
    .select({
      number: round.number,
      seasonId: round.seasonId,
      state: round.state,
      version: round.version,
      guards: round.guards,
      totals: round.totals,
      closedBy: account.name,
      closedByName: round.closedByName,
    })
    .from(round)
    .leftJoin(account, eq(account.id, round.closedBy))
    .where(eq(round.number, number));
  return found;
}

/** Returns a round if it is open. */
export async function findOpen(db: Queries, number: number) {
  const [found] = await db
    .select()
    .from(round)
    .where(and(eq(round.number, number), eq(round.state, "open")));
  return found;
}

/** Stores the version of a round. */
export async function storeVersion(db: Queries, version: number, number: number): Promise<void> {
  await db.update(round).set({ version }).where(eq(round.number, number));
}

/** Returns to which season a round belongs. */
export async function findSeasonOf(db: Queries, number: number) {
  const [found] = await db
    .select({ seasonId: round.seasonId })
    .from(round)
    .where(eq(round.number, number));
  return found;
}

/** Lists the rounds that were carried out, the latest first. */
export function listDone(db: Queries, before: number | undefined) {
  return db
    .select({ ...roundColumns, closedBy: account.name })
    .from(round)
    .leftJoin(account, eq(account.id, round.closedBy))
    .where(
      before === undefined
        ? eq(round.state, "done")
        : and(eq(round.state, "done"), lt(round.number, before)),
    )
    .orderBy(desc(round.number))
    .limit(50);
}

/** Returns a round as its page shows it. */
export async function findShownRound(db: Queries, number: number) {
  const [found] = await db
    .select({ ...roundColumns, closedBy: account.name })
    .from(round)
    .leftJoin(account, eq(account.id, round.closedBy))
    .where(eq(round.number, number));
  return found;
}

/** Lists the sources of some imports. */
export function listSourcesOf(db: Queries, ids: string[]) {
  return db
    .select({ name: source.name, readAt: reading.readAt })
    .from(reading)
    .innerJoin(source, eq(source.id, reading.sourceId))
    .where(inArray(reading.id, ids));
}

/** Lists the names of all sources. */
export function listSourceNames(db: Queries) {
  return db.select({ id: source.id, name: source.name }).from(source);
}

/** Lists the sources whose changes are carried out by themselves. */
export function listSourcesByThemselves(db: Queries) {
  return db.select({ id: source.id }).from(source).where(eq(source.mode, "itself"));
}

/** Returns the round with a number. */
export async function findRound(db: Queries, number: number) {
  const [found] = await db.select().from(round).where(eq(round.number, number));
  return found;
}

/** Returns the round that has undone a round. */
export async function findUndoing(db: Queries, number: number) {
  const [found] = await db
    .select({ number: round.number })
    .from(round)
    .where(eq(round.takesBack, number));
  return found;
}

export async function moveLists(
  tx: Queries,
  from: number,
  to: number,
  keys: ReadonlySet<string>,
): Promise<void> {
  await tx.execute(
    sql`update list set season_id = ${to} from json_array_elements_text(${JSON.stringify([...keys])}::json) as moved(key) where list.season_id = ${from} and list.key = moved.key`,
  );
}

/** Whether any list of that key stands in the season, open. */
export async function listByKey(
  tx: Queries,
  seasonId: number,
  key: string,
): Promise<{ id: string; siteId: number | null } | undefined> {
  const [found] = await tx
    .select({ id: list.id, siteId: list.siteId })
    .from(list)
    .where(and(eq(list.seasonId, seasonId), eq(list.key, key), isNull(list.closedAt)));
  return found;
}

import { alphabetical } from "../db/alphabetical";
import { and, eq, sql, desc, lte, type SQL, asc, ne } from "drizzle-orm";
import { type Caller, callerMay } from "../callers/caller";
import type { Queries } from "../db/connect";
import { season } from "../db/schema/house";
import { source, sourceHelper, type SourceKind, reading } from "../db/schema/sources";

/** Lists the sources to which somebody may add rows. */
export function listHelped(db: Queries, caller: Caller) {
  return db
    .select({ id: source.id, name: source.name, kind: source.kind })
    .from(source)
    .innerJoin(season, and(eq(season.id, source.seasonId), eq(season.current, true)))
    .where(helps(caller))
    .orderBy(alphabetical(source.name));
}

function helps(caller: Caller) {
  return callerMay(caller, "read a source")
    ? sql`true`
    : sql`exists (select 1 from ${sourceHelper} where ${sourceHelper.sourceId} = ${source.id} and ${sourceHelper.accountId} = ${caller.id})`;
}

/** Returns a source if somebody may add rows to it. */
export async function findHelped(db: Queries, id: string, caller: Caller) {
  const [found] = await db
    .select({ id: source.id, name: source.name, kind: source.kind })
    .from(source)
    .innerJoin(season, and(eq(season.id, source.seasonId), eq(season.current, true)))
    .where(and(eq(source.id, id), helps(caller)));
  return found;
}

/** Returns the source with an id. */
export async function findSource(db: Queries, id: string) {
  const [found] = await db.select().from(source).where(eq(source.id, id));
  return found;
}

/** Returns the source with an id, locked. */
export async function lockSource(db: Queries, id: string) {
  const [found] = await db.select().from(source).where(eq(source.id, id)).for("update");
  return found;
}

/** Stores how a source is read. */
export async function storeSourceSettings(
  db: Queries,
  settings: Pick<
    typeof source.$inferInsert,
    "name" | "location" | "schedule" | "mode" | "limits" | "whole"
  > & { kind: SourceKind; answersBeside: boolean },
  itself: "watched" | "web" | undefined,
  nextAt: Date | null,
  moved: boolean,
  id: string,
): Promise<void> {
  await db
    .update(source)
    .set({
      ...settings,
      answersBeside: settings.kind === "watched" && settings.answersBeside,
      schedule: itself === undefined ? null : settings.schedule,
      mode:
        itself === undefined && settings.kind !== "form" && settings.kind !== "posted"
          ? "ask"
          : settings.mode,
      nextAt,
      ...(moved ? { seen: {}, failures: 0, failingSince: null, outcome: "" } : {}),
    })
    .where(eq(source.id, id));
}

/** Returns to which season a source belongs. */
export async function findSeasonOfSource(db: Queries, id: string) {
  const [found] = await db
    .select({ seasonId: source.seasonId })
    .from(source)
    .where(eq(source.id, id));
  return found;
}

/** Returns to which season an import belongs. */
export async function findSeasonOfReading(db: Queries, readingId: string) {
  const [found] = await db
    .select({ seasonId: source.seasonId })
    .from(source)
    .where(sql`${source.id} = (select source_id from reading where id = ${readingId})`);
  return found;
}

/** Stores what a source looked like when it was read. */
export async function storeSeen(
  db: Queries,
  seen: Record<string, string>,
  id: string,
): Promise<void> {
  await db.update(source).set({ seen }).where(eq(source.id, id));
}

/** Stores where a source is read from. */
export async function storeLocation(db: Queries, location: string, id: string): Promise<void> {
  await db.update(source).set({ location }).where(eq(source.id, id));
}

/** Claims the sources that are due to be read, so that no other process reads them. */
export function claimDueSources(db: Queries, at: Date) {
  return db
    .update(source)
    .set({ nextAt: new Date(at.getTime() + 5 * 60_000) })
    .where(
      and(
        lte(source.nextAt, at),
        sql`${source.kind} in ('watched', 'web', 'posted')`,
        sql`${source.seasonId} in (select id from season where current)`,
      ),
    )
    .returning({ id: source.id });
}

/** Stores when a source was looked at, and when it will be next. */
export async function storeNextLook(
  db: Queries,
  after: Pick<typeof source.$inferInsert, "triedAt"> & { nextAt: SQL | Date | null },
  id: string,
): Promise<void> {
  await db.update(source).set(after).where(eq(source.id, id));
}

/** Stores that a source was looked at, and with what outcome. */
export async function storeLookDone(
  db: Queries,
  after: Pick<typeof source.$inferInsert, "triedAt"> & { nextAt: SQL | Date | null },
  outcome: string,
  seen: Record<string, string> | undefined,
  id: string,
): Promise<void> {
  await db
    .update(source)
    .set({
      ...after,
      outcome,
      failures: 0,
      failingSince: null,
      ...(seen === undefined ? {} : { seen }),
    })
    .where(eq(source.id, id));
}

/** Lists all sources with their kinds. */
export function listSourceKinds(db: Queries) {
  return db.select({ id: source.id, kind: source.kind }).from(source);
}

/** Stores whether a source holds everybody, and returns it where that has changed. */
export function storeWhole(db: Queries, whole: boolean, id: string) {
  return db
    .update(source)
    .set({ whole })
    .where(and(eq(source.id, id), ne(source.whole, whole)))
    .returning({ seasonId: source.seasonId });
}

/** Makes a source, and returns its id; undefined where one has its name. */
export async function storeSource(
  db: Queries,
  name: string,
  kind: SourceKind,
  whole: boolean,
  seasonId: number,
) {
  const [found] = await db
    .insert(source)
    .values({ name, kind, whole, seasonId })
    .onConflictDoNothing()
    .returning({ id: source.id });
  return found;
}

/** Returns a source with the column meanings of its last import. */
export async function findWithPlan(db: Queries, id: string) {
  const [found] = await db
    .select({ name: source.name, plan: reading.plan })
    .from(source)
    .leftJoin(reading, eq(reading.sourceId, source.id))
    .where(eq(source.id, id))
    .orderBy(desc(reading.number))
    .limit(1);
  return found;
}

/** Returns a source with the number of its last import. */
export async function findWithNewest(db: Queries, id: string) {
  const [found] = await db
    .select({
      id: source.id,
      name: source.name,
      newest:
        sql<number>`(select max(reading.number) from reading where reading.source_id = source.id)`.mapWith(
          Number,
        ),
    })
    .from(source)
    .where(eq(source.id, id));
  return found;
}

/** Lists the sources of the current season, oldest first. */
export function listCurrent(db: Queries) {
  return db
    .select({ own: source })
    .from(source)
    .innerJoin(season, eq(season.id, source.seasonId))
    .where(eq(season.current, true))
    .orderBy(asc(source.createdAt));
}

export async function lastReading(db: Queries, id: string) {
  const [last] = await db
    .select({
      plan: reading.plan,
      rows: reading.rows,
      file: reading.file,
      fileName: reading.fileName,
    })
    .from(reading)
    .where(eq(reading.sourceId, id))
    .orderBy(desc(reading.number))
    .limit(1);
  return last;
}

export async function nameOf(tx: Queries, sourceId: string): Promise<string> {
  const [found] = await tx
    .select({ name: source.name })
    .from(source)
    .where(eq(source.id, sourceId));
  return found?.name ?? "";
}

/** Stores that a source could not be read, and why. */
export async function storeLookFailed(
  db: Queries,
  { id }: { id: string },
  values: Pick<
    typeof source.$inferInsert,
    "triedAt" | "outcome" | "failures" | "failingSince" | "seen"
  > & { nextAt: SQL | Date | null },
): Promise<void> {
  await db.update(source).set(values).where(eq(source.id, id));
}

import { createHash } from "node:crypto";
import { and, eq, sql, isNull, inArray, desc, lte, type SQL, asc, ne } from "drizzle-orm";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { PostedFields } from "@amigo/core/sheet/postedAnswers";
import { type Caller, callerMay } from "../callers/caller";
import { hashToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { addressTrouble } from "../db/schema/deliveries";
import { season } from "../db/schema/house";
import { membership, list, cohort } from "../db/schema/lists";
import { question } from "../db/schema/people";
import { cause, round } from "../db/schema/rounds";
import {
  source,
  sourceHelper,
  correction,
  type SourceKind,
  postedAnswer,
  reading,
} from "../db/schema/sources";
import { t } from "../texts/t";

/** Lists the sources to which somebody may add rows. */
export function listHelped(db: Queries, caller: Caller) {
  return db
    .select({ id: source.id, name: source.name, kind: source.kind })
    .from(source)
    .innerJoin(season, and(eq(season.id, source.seasonId), eq(season.current, true)))
    .where(helps(caller))
    .orderBy(source.name);
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

/** Lists the addresses to which mail is stopped or in doubt. */
export function listAllTroubles(db: Queries) {
  return db.select().from(addressTrouble);
}

/** Lists on which lists of a season each address is, and since when. */
export function listListsByAddress(db: Queries, seasonId: number) {
  return db
    .select({
      address: membership.address,
      title: list.title,
      cohort: cohort.key,
      from: membership.validFrom,
    })
    .from(membership)
    .innerJoin(
      list,
      and(eq(list.id, membership.listId), eq(list.seasonId, seasonId), isNull(list.closedAt)),
    )
    .leftJoin(cohort, eq(cohort.id, list.cohortId))
    .where(isNull(membership.validUntil))
    .orderBy(list.title);
}

/** Lists what waits in the open round of a season. */
export function listWaitingCauses(db: Queries, seasonId: number) {
  return db
    .select({
      subject: cause.subject,
      sentence: cause.sentence,
      round: cause.round,
      decision: cause.decision,
    })
    .from(cause)
    .innerJoin(
      round,
      and(eq(round.number, cause.round), eq(round.state, "open"), eq(round.seasonId, seasonId)),
    )
    .orderBy(cause.position);
}

/** Lists the rows about which there are open questions. */
export function listQuestionSides(db: Queries, seasonId: number) {
  return db
    .select({ about: question.about, sides: question.sides })
    .from(question)
    .innerJoin(season, eq(season.id, question.seasonId))
    .where(eq(question.seasonId, seasonId));
}

/** Lists how some corrections are read. */
export function listCorrectionsAmong(db: Queries, ids: string[]) {
  return db
    .select({ id: correction.id, read: correction.read })
    .from(correction)
    .where(inArray(correction.id, ids));
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

/** Ends the correction that a cell has, because another one is made. */
export async function endCorrectionsOf(
  db: Queries,
  by: string,
  sourceId: string,
  row: string,
  meaning: MeaningId,
  slot: number,
): Promise<void> {
  await db
    .update(correction)
    .set({ endedAt: sql`now()`, ended: t("sources.correctedItAnew", { name: by }) })
    .where(
      and(
        eq(correction.sourceId, sourceId),
        eq(correction.row, row),
        eq(correction.meaning, meaning),
        eq(correction.slot, slot),
        isNull(correction.endedAt),
      ),
    );
}

/** Stores a correction, and returns its id. */
export async function storeCorrection(
  db: Queries,
  sourceId: string,
  row: string,
  meaning: MeaningId,
  slot: number,
  written: string,
  read: string,
  who: string,
  place: string,
  by: string,
  byId: string | null,
) {
  const [found] = await db
    .insert(correction)
    .values({
      sourceId,
      row,
      meaning,
      slot,
      written,
      read,
      who,
      place,
      by,
      byId,
    })
    .returning({ id: correction.id });
  return found;
}

/** Ends a correction, and returns it; undefined where it had ended. */
export async function endCorrectionRow(db: Queries, by: string, id: string) {
  const [found] = await db
    .update(correction)
    .set({ endedAt: sql`now()`, ended: t("sources.tookItBack", { name: by }) })
    .where(and(eq(correction.id, id), isNull(correction.endedAt)))
    .returning();
  return found;
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

/** Lists all corrections of the current season. */
export function listAllCorrections(db: Queries) {
  return db
    .select({
      id: correction.id,
      source: source.name,
      place: correction.place,
      who: correction.who,
      written: correction.written,
      read: correction.read,
      by: correction.by,
      at: correction.at,
      endedAt: correction.endedAt,
      ended: correction.ended,
    })
    .from(correction)
    .innerJoin(source, eq(source.id, correction.sourceId))
    .orderBy(sql`${correction.endedAt} is not null`, desc(correction.at))
    .limit(500);
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

/** Returns of which kind a source is. */
export async function findKind(db: Queries, id: string) {
  const [found] = await db.select({ kind: source.kind }).from(source).where(eq(source.id, id));
  return found;
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

/** Stores the secret of a source's address by its hash. */
export async function storeToken(db: Queries, token: string, id: string): Promise<void> {
  await db
    .update(source)
    .set({ tokenHash: hashToken(token) })
    .where(eq(source.id, id));
}

/** Lists the answers that were posted to a source, oldest first. */
export function listPostedAnswers(db: Queries, sourceId: string) {
  return db
    .select({ at: postedAnswer.at, fields: postedAnswer.fields })
    .from(postedAnswer)
    .where(eq(postedAnswer.sourceId, sourceId))
    .orderBy(asc(postedAnswer.number));
}

/** Makes a source whose answers are posted, and returns its id; undefined where one has its name. */
export async function storePostedSource(db: Queries, name: string, seasonId: number) {
  const [found] = await db
    .insert(source)
    .values({ name, kind: "posted", whole: false, seasonId })
    .onConflictDoNothing()
    .returning({ id: source.id });
  return found;
}

/** Returns a source whose answers are posted. */
export async function findPostedSource(db: Queries, id: string) {
  const [found] = await db
    .select({ name: source.name })
    .from(source)
    .where(and(eq(source.id, id), eq(source.kind, "posted")));
  return found;
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

/** Counts the answers that were posted to each source. */
export function countPosted(db: Queries) {
  return db
    .select({ id: postedAnswer.sourceId, count: sql<number>`count(*)`.mapWith(Number) })
    .from(postedAnswer)
    .groupBy(postedAnswer.sourceId);
}

/** Returns the current source whose address has a secret. */
export async function findByToken(db: Queries, hash: string) {
  const [found] = await db
    .select({ id: source.id })
    .from(source)
    .innerJoin(season, and(eq(season.id, source.seasonId), eq(season.current, true)))
    .where(eq(source.tokenHash, hash));
  return found;
}

/** Counts the answers that were posted to a source. */
export async function countPostedTo(db: Queries, sourceId: string) {
  const [found] = await db
    .select({ answers: sql<number>`count(*)`.mapWith(Number) })
    .from(postedAnswer)
    .where(eq(postedAnswer.sourceId, sourceId));
  return found;
}

/** Stores an answer that was posted, once however often it comes. */
export async function storePostedAnswer(
  db: Queries,
  sourceId: string,
  fields: PostedFields,
): Promise<void> {
  await db
    .insert(postedAnswer)
    .values({
      sourceId,
      fields,
      sha256: createHash("sha256").update(JSON.stringify(fields)).digest("hex"),
    })
    .onConflictDoNothing();
}

/** Makes a source be read soon, if a person has looked at it once. */
export async function markDue(db: Queries, id: string): Promise<void> {
  await db
    .update(source)
    .set({ nextAt: sql`now()` })
    .where(
      and(eq(source.id, id), sql`exists (select 1 from reading where reading.source_id = ${id})`),
    );
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

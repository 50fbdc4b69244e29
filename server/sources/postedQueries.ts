import { createHash } from "node:crypto";
import { eq, asc, and, sql } from "drizzle-orm";
import type { PostedFields } from "@amigo/core/sheet/postedAnswers";
import { hashToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { season } from "../db/schema/house";
import { source, postedAnswer } from "../db/schema/sources";

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

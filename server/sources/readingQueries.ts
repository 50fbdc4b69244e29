import { eq, desc, sql, inArray } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { question } from "../db/schema/people";
import { reading, source, readingFault, correction, readingMet } from "../db/schema/sources";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";

/** Returns the last import of a source with its file. */
export async function findLastFile(db: Queries, sourceId: string) {
  const [found] = await db
    .select({
      id: reading.id,
      sourceId: reading.sourceId,
      name: source.name,
      fileName: reading.fileName,
      plan: reading.plan,
      file: reading.file,
      seasonId: source.seasonId,
    })
    .from(reading)
    .innerJoin(source, eq(source.id, reading.sourceId))
    .where(eq(reading.sourceId, sourceId))
    .orderBy(desc(reading.number))
    .limit(1);
  return found;
}

/** Removes the faulty cells of an import, to be found again. */
export async function removeFaults(db: Queries, readingId: string): Promise<void> {
  await db.delete(readingFault).where(eq(readingFault.readingId, readingId));
}

/** Returns the last import of a source with its file and kind. */
export async function findLastImport(db: Queries, sourceId: string) {
  const [found] = await db
    .select({
      name: reading.fileName,
      bytes: reading.file,
      writtenAt: reading.writtenAt,
      kind: source.kind,
    })
    .from(reading)
    .innerJoin(source, eq(source.id, reading.sourceId))
    .where(eq(reading.sourceId, sourceId))
    .orderBy(desc(reading.number))
    .limit(1);
  return found;
}

/** Returns the last import of a source. */
export async function findLastReading(db: Queries, sourceId: string) {
  const [found] = await db
    .select({
      id: reading.id,
      number: reading.number,
      sha256: reading.sha256,
      rowsHash: reading.rowsHash,
      plan: reading.plan,
      students: reading.students,
    })
    .from(reading)
    .where(eq(reading.sourceId, sourceId))
    .orderBy(desc(reading.number))
    .limit(1);
  return found;
}

/** Ends corrections of cells that the sheet itself has changed. */
export async function endOutdated(db: Queries, number: number, ids: string[]): Promise<void> {
  await db
    .update(correction)
    .set({
      endedAt: sql`now()`,
      ended: inStaffLanguage(() => t("sources.theSheetSaysSomethingElse", { number })),
    })
    .where(inArray(correction.id, ids));
}

/** Stores how many of an import's people were known before. */
export async function storeMet(
  db: Queries,
  readingId: string,
  met: { known: number; fresh: number },
): Promise<void> {
  await db.insert(readingMet).values({ readingId, ...met });
}

/** Counts the open questions about rows of an import. */
export async function countQuestionsAbout(db: Queries, readingId: string) {
  const [found] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(question)
    .where(
      sql`exists (select 1 from jsonb_array_elements(${question.sides}) as side where side->'where'->>'reading' = ${readingId})`,
    );
  return found;
}

/** Stores an import, and returns its id. */
export async function storeReading(
  db: Queries,
  values: typeof reading.$inferInsert,
): Promise<string> {
  const [made] = await db.insert(reading).values(values).returning({ id: reading.id });
  if (made === undefined) throw new Error("the import was not stored");
  return made.id;
}

import { and, asc, count, desc, eq, inArray, sql } from "drizzle-orm";
import { learnDomains } from "@amigo/core/address/learnDomains";
import { readRecords, type Records } from "@amigo/core/sheet/readRecords";
import { readTable } from "@amigo/core/sheet/readTable";
import type { SourceRecords } from "@amigo/core/identity/deriveFacts";
import type { Queries } from "../db/connect";
import { account, reading, readingFault, readingRow, source } from "../db/schema";

/** Everything of a reading but the file itself. */
export const readingColumns = {
  id: reading.id, sourceId: reading.sourceId, number: reading.number, fileName: reading.fileName, format: reading.format, sha256: reading.sha256,
  sheets: reading.sheets, plan: reading.plan, rows: reading.rows, students: reading.students, readAt: reading.readAt,
};

/** The newest reading of every source of a season, oldest source first: its order of precedence. */
export async function latestReadings(db: Queries, seasonId: number) {
  const newest = db.selectDistinctOn([reading.sourceId], { id: reading.id }).from(reading).orderBy(reading.sourceId, desc(reading.number));
  return db.select({ ...readingColumns, sourceName: source.name }).from(reading).innerJoin(source, eq(source.id, reading.sourceId))
    .where(and(eq(source.seasonId, seasonId), inArray(reading.id, newest))).orderBy(asc(source.createdAt));
}

/** The reading of a source before another one, if there is one. */
export async function readingBefore(db: Queries, sourceId: string, number: number) {
  const [found] = await db.select(readingColumns).from(reading).where(and(eq(reading.sourceId, sourceId), sql`${reading.number} < ${number}`)).orderBy(desc(reading.number)).limit(1);
  return found;
}

/** A stored reading, laid out again as it was and taken apart by the plan it was read with. */
export async function tableOfReading(db: Queries, found: { id: string; plan: typeof reading.$inferSelect.plan }) {
  const rows = await db.select({ row: readingRow.row, cells: readingRow.cells }).from(readingRow).where(eq(readingRow.readingId, found.id)).orderBy(readingRow.row);
  const cells: string[][] = [];
  for (const { row, cells: own } of rows) {
    while (cells.length < row - 1) cells.push([]);
    cells.push(own);
  }
  return readTable({ format: "text", sheets: [{ name: found.plan.sheet, hidden: false, rows: cells, joined: [] }] }, found.plan);
}

/** The records of a stored reading. */
export async function recordsOfReading(db: Queries, found: { id: string; plan: typeof reading.$inferSelect.plan }): Promise<Records> {
  const table = await tableOfReading(db, found);
  return table.ok ? readRecords(table.sheet, table.table) : { records: [], faults: [], domains: learnDomains([]) };
}

/** The records of every source of a season, as its last reading has them. */
export async function currentRecords(db: Queries, seasonId: number): Promise<{ sources: SourceRecords[]; readings: Awaited<ReturnType<typeof latestReadings>> }> {
  const readings = await latestReadings(db, seasonId);
  const sources: SourceRecords[] = [];
  for (const found of readings) sources.push({ source: found.sourceId, reading: found.id, records: (await recordsOfReading(db, found)).records });
  return { sources, readings };
}

/** Readings of a source with their counts of faults, newest first. */
export async function readingLines(db: Queries, where: { source: string } | { reading: string }) {
  const faults = db.select({ readingId: readingFault.readingId, faults: count().as("faults"), toDecide: sql<number>`count(*) filter (where ${readingFault.answer} <> 'clean')`.mapWith(Number).as("to_decide") }).from(readingFault).groupBy(readingFault.readingId).as("faults");
  const rows = await db.select({ ...readingColumns, faults: faults.faults, toDecide: faults.toDecide, readBy: account.name }).from(reading)
    .leftJoin(faults, eq(faults.readingId, reading.id)).leftJoin(account, eq(account.id, reading.readBy))
    .where("source" in where ? eq(reading.sourceId, where.source) : eq(reading.id, where.reading)).orderBy(desc(reading.number)).limit(100);
  return rows.map((row) => ({
    line: { id: row.id, number: row.number, fileName: row.fileName, sheet: row.plan.sheet, rows: row.rows, students: row.students, faults: row.faults ?? 0, toDecide: row.toDecide ?? 0, readAt: row.readAt.toISOString(), readBy: row.readBy ?? "Amigo" },
    plan: row.plan,
    sheets: row.sheets,
    sourceId: row.sourceId,
  }));
}

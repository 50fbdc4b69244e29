import { and, asc, count, desc, eq, inArray, isNull, sql } from "drizzle-orm";
import type { SourceRecords } from "@amigo/core/identity/sourceRecords";
import type { Correction } from "@amigo/core/sheet/corrections";
import { readAll, type WholeReading } from "@amigo/core/sheet/readAll";
import { NO_CONTEXT, type ReadingContext } from "@amigo/core/sheet/readingContext";
import { readTables } from "@amigo/core/sheet/readTable";
import type { OrFileFault, Sheet } from "@amigo/core/sheet/sheet";
import type { TableInSheet } from "@amigo/core/sheet/table";
import type { Queries } from "../db/connect";
import { listReadRows } from "./rowQueries";
import { account } from "../db/schema/accounts";
import { house, season } from "../db/schema/house";
import {
  source,
  reading,
  readingMet,
  readingShared,
  readingFault,
  correction,
} from "../db/schema/sources";

/** A reading whose records are at hand already, so that they need not be fetched. */
export interface FreshReading {
  id: string;
  records: SourceRecords["records"];
}

/** Everything of a reading but the file itself. */
export const readingColumns = {
  id: reading.id,
  sourceId: reading.sourceId,
  number: reading.number,
  fileName: reading.fileName,
  format: reading.format,
  sha256: reading.sha256,
  sheets: reading.sheets,
  plan: reading.plan,
  rows: reading.rows,
  students: reading.students,
  readAt: reading.readAt,
  writtenAt: reading.writtenAt,
  seasons: reading.seasons,
  notes: reading.notes,
};

/** The newest reading of every source of a season, oldest source first: its order of precedence. */
export async function latestReadings(db: Queries, seasonId: number) {
  const newest = db
    .selectDistinctOn([reading.sourceId], { id: reading.id })
    .from(reading)
    .orderBy(reading.sourceId, desc(reading.number));
  return db
    .select({
      ...readingColumns,
      sourceName: source.name,
      limits: source.limits,
      whole: source.whole,
    })
    .from(reading)
    .innerJoin(source, eq(source.id, reading.sourceId))
    .where(and(eq(source.seasonId, seasonId), inArray(reading.id, newest)))
    .orderBy(asc(source.createdAt));
}

/** The reading of a source before another one, if there is one. */
export async function readingBefore(db: Queries, sourceId: string, number: number) {
  const [found] = await db
    .select(readingColumns)
    .from(reading)
    .where(and(eq(reading.sourceId, sourceId), sql`${reading.number} < ${number}`))
    .orderBy(desc(reading.number))
    .limit(1);
  return found;
}

/** A stored reading, laid out again as it was and taken apart by the plan it was read with. */
export async function tablesOfReading(
  db: Queries,
  found: { id: string; plan: typeof reading.$inferSelect.plan },
): Promise<OrFileFault<{ tables: TableInSheet[] }>> {
  const rows = await listReadRows(db, found.id);
  const sheets = [found.plan.sheet, ...(found.plan.others ?? [])].map((name): Sheet => ({
    name,
    hidden: false,
    rows: [],
    joined: [],
  }));
  for (const { sheet, row, cells } of rows) {
    const sheetRows = sheets[sheet]?.rows;
    if (sheetRows === undefined) continue;
    while (sheetRows.length < row - 1) sheetRows.push([]);
    sheetRows.push(cells);
  }
  return readTables({ format: "text", sheets }, found.plan);
}

/** The corrections of a source that are in force. */
export async function correctionsOf(db: Queries, sourceId: string): Promise<Correction[]> {
  return db
    .select({
      id: correction.id,
      row: correction.row,
      meaning: correction.meaning,
      slot: correction.slot,
      written: correction.written,
      read: correction.read,
    })
    .from(correction)
    .where(and(eq(correction.sourceId, sourceId), isNull(correction.endedAt)))
    .orderBy(asc(correction.at));
}

/** What the sheets of a source don't say themselves: the house's time zone, and the season that they are about. */
export async function readingContext(db: Queries, sourceId: string): Promise<ReadingContext> {
  const [found] = await db
    .select({ season: season.label, timeZone: house.timeZone, listDomain: house.listDomain })
    .from(source)
    .innerJoin(season, eq(season.id, source.seasonId))
    .crossJoin(house)
    .where(eq(source.id, sourceId));
  return found ?? NO_CONTEXT;
}

/** A stored reading, read again as the corrections of its source say now. */
export async function readAgain(
  db: Queries,
  found: { id: string; sourceId: string; plan: typeof reading.$inferSelect.plan },
): Promise<WholeReading> {
  const tables = await tablesOfReading(db, found);
  return tables.ok
    ? readAll(
        tables.tables,
        await correctionsOf(db, found.sourceId),
        await readingContext(db, found.sourceId),
      )
    : { records: [], faults: [], outdated: [], otherSeasons: [], season: "" };
}

/** The records of every source of a season, as its last reading has them. */
export async function currentRecords(
  db: Queries,
  readings: Awaited<ReturnType<typeof latestReadings>>,
  fresh?: FreshReading,
): Promise<SourceRecords[]> {
  const sources: SourceRecords[] = [];
  for (const found of readings)
    sources.push({
      source: found.sourceId,
      reading: found.id,
      whole: found.whole,
      records: found.id === fresh?.id ? fresh.records : (await readAgain(db, found)).records,
    });
  return sources;
}

/** Readings of sources with their counts of faults, newest first. */
export async function readingLines(
  db: Queries,
  where: { source: string } | { reading: string } | { newestOf: readonly string[] },
) {
  const ids =
    "newestOf" in where
      ? inArray(
          reading.id,
          db
            .selectDistinctOn([reading.sourceId], { id: reading.id })
            .from(reading)
            .where(inArray(reading.sourceId, [...where.newestOf]))
            .orderBy(reading.sourceId, desc(reading.number)),
        )
      : "source" in where
        ? eq(reading.sourceId, where.source)
        : eq(reading.id, where.reading);
  const counts = db
    .select({
      readingId: readingFault.readingId,
      found: count().as("found"),
      open: sql<number>`count(*) filter (where ${readingFault.answer} <> 'clean' and ${readingFault.correctionId} is null)`
        .mapWith(Number)
        .as("open"),
    })
    .from(readingFault)
    .where(inArray(readingFault.readingId, db.select({ id: reading.id }).from(reading).where(ids)))
    .groupBy(readingFault.readingId)
    .as("counts");
  const rows = await db
    .select({
      ...readingColumns,
      known: readingMet.known,
      fresh: readingMet.fresh,
      found: counts.found,
      open: counts.open,
      faults: readingShared.faults,
      toDecide: readingShared.toDecide,
      readBy: account.name,
    })
    .from(reading)
    .leftJoin(readingMet, eq(readingMet.readingId, reading.id))
    .leftJoin(counts, eq(counts.readingId, reading.id))
    .leftJoin(readingShared, eq(readingShared.readingId, reading.id))
    .leftJoin(account, eq(account.id, reading.readBy))
    .where(ids)
    .orderBy(desc(reading.number))
    .limit(100);
  return rows.map((row) => ({
    line: {
      id: row.id,
      number: row.number,
      fileName: row.fileName,
      sheet: row.plan.sheet,
      rows: row.rows,
      students: row.students,
      known: row.known ?? 0,
      fresh: row.fresh ?? 0,
      // An import that shares rows with the next one has only some of its faults with itself.
      faults: row.faults ?? row.found ?? 0,
      toDecide: row.toDecide ?? row.open ?? 0,
      notes: row.notes,
      readAt: row.readAt.toISOString(),
      readBy: row.readBy ?? "Amigo",
    },
    plan: row.plan,
    sheets: row.sheets,
    sourceId: row.sourceId,
  }));
}

/** Lists some imports with their sources and column meanings. */
export function listReadings(db: Queries, ids: string[]) {
  return db
    .select({ id: reading.id, source: source.id, name: source.name, plan: reading.plan })
    .from(reading)
    .innerJoin(source, eq(source.id, reading.sourceId))
    .where(inArray(reading.id, ids));
}

/** Lists who made some corrections, and of what. */
export function listCorrectionsBy(db: Queries, ids: string[]) {
  return db
    .select({ id: correction.id, by: correction.by, written: correction.written })
    .from(correction)
    .where(inArray(correction.id, ids));
}

import { applyCorrections, type Correction } from "./corrections";
import { NO_CONTEXT, type ReadingContext } from "./readingContext";
import { readRecords } from "./readRecords";
import type { TableInSheet } from "./table";
import type { RowRecord, CellFault } from "./rowRecord";

/** A cell's fault, and the correction that has put it right, if one has. */
export interface FaultInSheet extends CellFault {
  correction: string | undefined;
}

/** All tables of one reading, read. */
export interface WholeReading {
  records: RowRecord[];
  faults: FaultInSheet[];
  /** Corrections that no longer hold, for the sheet itself has changed there. */
  outdated: string[];
  /** Rows that were set aside because they are about another season, by season. */
  otherSeasons: { season: string; rows: number }[];
  /** The season of the rows that are read, where a column names one; else empty. */
  season: string;
}

/**
 * Reads all tables of a file as its corrections say. A cell that was put right keeps its fault, marked with
 * the correction. Where every class has a sheet of its own and no column names it, the sheet's name is the class.
 */
export function readAll(
  tables: readonly TableInSheet[],
  corrections: readonly Correction[] = [],
  context: ReadingContext = NO_CONTEXT,
): WholeReading {
  const records: RowRecord[] = [];
  const faults: FaultInSheet[] = [];
  const missing = new Set(corrections.map(({ id }) => id));
  const outdated = new Set<string>();
  for (const { sheet, table } of tables) {
    const corrected = applyCorrections(sheet, table, corrections);
    for (const id of corrected.cells.values()) missing.delete(id);
    for (const id of corrected.outdated) outdated.add(id);
    const read = readRecords(corrected.sheet, table, undefined, context);
    for (const record of read.records)
      records.push(withCorrections(record, table.columns, corrected.cells));
    for (const fault of read.faults) faults.push({ ...fault, correction: undefined });
    const mended = new Set([...corrected.cells.keys()].map((key) => Number(key.split(" ")[0])));
    if (mended.size === 0) continue;
    const asWritten = readRecords(sheet, { ...table, rows: [...mended] }, read.domains, context);
    for (const fault of asWritten.faults) {
      const id = corrected.cells.get(`${fault.row - 1} ${fault.column}`);
      if (id !== undefined) faults.push({ ...fault, correction: id });
    }
  }
  const { kept, ...seasons } = ofOneSeason(records, context.season);
  const aside = new Set(kept.length === records.length ? [] : placesOf(records));
  for (const place of placesOf(kept)) aside.delete(place);
  return {
    records: kept,
    faults:
      aside.size === 0
        ? faults
        : faults.filter((faultInSheet) => !aside.has(placeOf(faultInSheet))),
    outdated: [...outdated].filter((id) => missing.has(id)),
    ...seasons,
  };
}

/**
 * Keeps the rows of one season where rows name theirs: the house's current one, or, where none of the rows is about that,
 * the latest. A row that names none, or something else than a season, is kept.
 */
function ofOneSeason(
  records: readonly RowRecord[],
  current: string,
): { kept: RowRecord[]; season: string; otherSeasons: WholeReading["otherSeasons"] } {
  const counts = new Map<string, number>();
  for (const { season = "" } of records)
    if (isSeason(season)) counts.set(season, (counts.get(season) ?? 0) + 1);
  const named = [...counts.keys()].sort();
  const season = counts.has(current) ? current : (named[named.length - 1] ?? "");
  return {
    kept: records.filter((record) => !isSeason(record.season ?? "") || record.season === season),
    season,
    otherSeasons: named
      .filter((candidate) => candidate !== season)
      .map((item) => ({ season: item, rows: counts.get(item) ?? 0 })),
  };
}

function isSeason(text: string): boolean {
  return /^\d{4}-\d{2}$/.test(text);
}

function placeOf({ sheet, row }: { sheet: string; row: number }): string {
  return `${row} ${sheet}`;
}

function placesOf(records: readonly RowRecord[]): string[] {
  return records.map(placeOf);
}

function withCorrections(
  record: RowRecord,
  columns: TableInSheet["table"]["columns"],
  cells: ReadonlyMap<string, string>,
): RowRecord {
  if (cells.size === 0) return record;
  const wanted = columns.flatMap(({ index, meaning, slot }) => {
    const id = cells.get(`${record.row - 1} ${index}`);
    return id === undefined ? [] : [[`${meaning} ${slot}`, id] as const];
  });
  return wanted.length === 0 ? record : { ...record, corrected: new Map(wanted) };
}

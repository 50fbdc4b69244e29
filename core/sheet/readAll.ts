import { applyCorrections, type Correction } from "./corrections";
import { readRecords, type CellFault, type RowRecord } from "./readRecords";
import type { TableInSheet } from "./readTable";

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
}

/**
 * Reads all tables of a file as its corrections say. A cell that was put right keeps its fault, marked with
 * the correction. Where every class has a sheet of its own and no column names it, the sheet's name is the class.
 */
export function readAll(
  tables: readonly TableInSheet[],
  corrections: readonly Correction[] = [],
): WholeReading {
  const records: RowRecord[] = [];
  const faults: FaultInSheet[] = [];
  const missing = new Set(corrections.map(({ id }) => id));
  const outdated = new Set<string>();
  for (const { sheet, table } of tables) {
    const corrected = applyCorrections(sheet, table, corrections);
    for (const id of corrected.cells.values()) missing.delete(id);
    for (const id of corrected.outdated) outdated.add(id);
    const read = readRecords(corrected.sheet, table);
    for (const record of read.records)
      records.push(
        withCorrections(
          inClassOfSheet(record, { sheet, table }, tables.length),
          table.columns,
          corrected.cells,
        ),
      );
    for (const fault of read.faults) faults.push({ ...fault, correction: undefined });
    const mended = new Set([...corrected.cells.keys()].map((key) => Number(key.split(" ")[0])));
    if (mended.size === 0) continue;
    for (const fault of readRecords(sheet, { ...table, rows: [...mended] }, read.domains).faults) {
      const id = corrected.cells.get(`${fault.row - 1} ${fault.column}`);
      if (id !== undefined) faults.push({ ...fault, correction: id });
    }
  }
  return { records, faults, outdated: [...outdated].filter((id) => missing.has(id)) };
}

function withCorrections(
  record: RowRecord,
  columns: TableInSheet["table"]["columns"],
  cells: ReadonlyMap<string, string>,
): RowRecord {
  if (cells.size === 0) return record;
  const own = columns.flatMap(({ index, meaning, slot }) => {
    const id = cells.get(`${record.row - 1} ${index}`);
    return id === undefined ? [] : [[`${meaning} ${slot}`, id] as const];
  });
  return own.length === 0 ? record : { ...record, corrected: new Map(own) };
}

function inClassOfSheet(record: RowRecord, of: TableInSheet, sheets: number): RowRecord {
  if (sheets < 2 || of.table.columns.some(({ meaning }) => meaning === "classes")) return record;
  return { ...record, classes: [of.sheet.name] };
}

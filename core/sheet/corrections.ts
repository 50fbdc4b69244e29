import { nameKey } from "../identity/sameName";
import { fold } from "../text/fold";
import { tidyLine } from "../text/tidy";
import type { MeaningId } from "./meanings/meaning";
import { nameInRow } from "./nameInRow";
import type { Sheet } from "./sheet";
import type { Table } from "./table";

/** A remembered fix: where the row of that student says `written` in that column, read `read`. */
export interface Correction {
  id: string;
  /** The row's key, by which it is known however the rows move. */
  row: string;
  meaning: MeaningId;
  slot: number;
  written: string;
  /** Empty for "nothing is written here". */
  read: string;
}

/** A sheet with its corrections carried out. */
export interface CorrectedSheet {
  sheet: Sheet;
  /** The corrections by which cells were read: `row column`, both counted from 0, to the correction's id. */
  cells: Map<string, string>;
  /** Corrections whose row is there and now says something else: the sheet itself has changed. */
  outdated: string[];
}

/** The key of a row: its student's number, else the name, as they are written. Empty where it names nobody. */
export function rowKey(
  cells: readonly string[],
  table: Pick<Table, "columns" | "twoSurnames">,
): string {
  const text = (meaning: MeaningId): string =>
    tidyLine(cells[table.columns.find((column) => column.meaning === meaning)?.index ?? -1] ?? "");
  const number = fold(text("student.number"));
  if (number !== "") return `number ${number}`;
  const name = nameKey(nameInRow(cells, table));
  return name === "" ? "" : `name ${name}`;
}

/** Reads a sheet as its corrections say. The sheet itself stays as it is. */
export function applyCorrections(
  sheet: Sheet,
  table: Table,
  corrections: readonly Correction[],
): CorrectedSheet {
  const cells = new Map<string, string>();
  if (corrections.length === 0) return { sheet, cells, outdated: [] };
  const byRow = new Map<string, Correction[]>();
  for (const correction of corrections)
    byRow.set(correction.row, [...(byRow.get(correction.row) ?? []), correction]);
  const rows = [...sheet.rows];
  const seen = new Set<string>();
  const held = new Set<string>();
  for (const row of table.rows) {
    const written = sheet.rows[row] ?? [];
    for (const correction of byRow.get(rowKey(written, table)) ?? []) {
      const column = table.columns.find(
        ({ meaning, slot }) => meaning === correction.meaning && slot === correction.slot,
      );
      if (column === undefined) continue;
      seen.add(correction.id);
      if ((written[column.index] ?? "") !== correction.written) continue;
      held.add(correction.id);
      const found = [...(rows[row] ?? [])];
      while (found.length <= column.index) found.push("");
      found[column.index] = correction.read;
      rows[row] = found;
      cells.set(`${row} ${column.index}`, correction.id);
    }
  }
  return { sheet: { ...sheet, rows }, cells, outdated: [...seen].filter((id) => !held.has(id)) };
}

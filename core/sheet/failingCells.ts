import type { TableInSheet } from "./table";
import type { RowRecord } from "./rowRecord";

/** A cell that was read well and whose address fails. `sheet` counts from 0 among those that are read, `row` from 1, `column` from 0. */
export interface FailingCell {
  sheet: number;
  row: number;
  column: number;
  written: string;
  address: string;
}

/**
 * Finds where a sheet names addresses to which mail fails, as its cells are read now: a cell that a correction reads otherwise
 * is none of them.
 *
 * @param fails whether mail to an address fails
 */
export function failingCells(
  tables: readonly TableInSheet[],
  records: readonly RowRecord[],
  fails: (address: string) => boolean,
): FailingCell[] {
  const found: FailingCell[] = [];
  for (const record of records) {
    const sheet = tables.findIndex((table) => table.sheet.name === record.sheet);
    const of = tables[sheet];
    if (of === undefined) continue;
    const student = of.table.columns.findIndex(({ meaning }) => meaning === "student.address");
    const named = [
      { address: record.address, column: student < 0 ? undefined : student },
      ...record.guardians,
    ];
    for (const { address, column } of named) {
      if (address === undefined || column === undefined || !fails(address)) continue;
      if (
        found.some(
          (failingCell) =>
            failingCell.sheet === sheet &&
            failingCell.row === record.row &&
            failingCell.column === column,
        )
      )
        continue;
      found.push({
        sheet,
        row: record.row,
        column,
        written: of.sheet.rows[record.row - 1]?.[column] ?? "",
        address,
      });
    }
  }
  return found;
}

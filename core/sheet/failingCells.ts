import type { MeaningId } from "./meanings/meaning";
import type { Table, TableInSheet } from "./table";
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
    const named = [
      { address: record.address, column: studentColumn(of.table), row: record.row },
      ...record.guardians,
    ];
    for (const { address, column, row = record.row } of named) {
      if (address === undefined || column === undefined || !fails(address)) continue;
      if (
        found.some(
          (failingCell) =>
            failingCell.sheet === sheet && failingCell.row === row && failingCell.column === column,
        )
      )
        continue;
      found.push({
        sheet,
        row,
        column,
        written: of.sheet.rows[row - 1]?.[column] ?? "",
        address,
      });
    }
  }
  return found;
}

/** The column with students' addresses; where each row is one person, that with everybody's. */
function studentColumn({ columns }: Table): number | undefined {
  const of = (wanted: MeaningId): number => columns.findIndex(({ meaning }) => meaning === wanted);
  const own = of("student.address");
  const found = own < 0 && of("person.kind") >= 0 ? of("guardian.address") : own;
  return found < 0 ? undefined : found;
}

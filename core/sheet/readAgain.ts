import { followPlan } from "./comparePlans";
import { readTable } from "./readTable";
import type { OrFileFault, Workbook } from "./sheet";
import type { Table, ReadingPlan, SheetHints } from "./table";

/**
 * Reads a file once more as its source was settled at the last import: its sheet, what its columns hold, its layout.
 *
 * @returns the table, and the names of the sheets that are still read along with it; or a fault of `readTable`
 */
export function readAgain(
  workbook: Workbook,
  last: ReadingPlan,
  hints: Pick<SheetHints, "file" | "known">,
): OrFileFault<{ table: Table; others: string[] }> {
  const names = new Set(workbook.sheets.map(({ name }) => name));
  const found = readTable(workbook, undefined, {
    ...hints,
    ...(names.has(last.sheet) ? { sheet: last.sheet } : {}),
  });
  if (!found.ok) return found;
  const table = followPlan(found.table, last);
  const others = (last.others ?? []).filter((name) => names.has(name) && name !== table.sheet);
  return { ok: true, table, others };
}

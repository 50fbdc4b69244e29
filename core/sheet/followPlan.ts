import { dateOrder } from "../dates/dateOrder";
import { tidyLine } from "../text/tidy";
import { columnsIn, type FoundHeader } from "./findHeader";
import { meaningOf } from "./meanings/allMeanings";
import { sortRows } from "./shapes/sortRows";
import type { Sheet } from "./sheet";
import type { TableColumn, Table, ReadingPlan } from "./table";
import { manners } from "./readingPlan";

/** Takes a sheet apart as somebody has settled it. */
export function follow(sheet: Sheet, header: FoundHeader, plan: ReadingPlan): Table {
  const sorted = sortRows(sheet, header);
  const rows =
    plan.headings === undefined || plan.sheet !== sheet.name
      ? undefined
      : new Set(plan.headings.rows);
  const lines =
    rows === undefined
      ? sorted.headings
      : [...rows].map((row) => ({
          row,
          text: tidyLine((sheet.rows[row] ?? []).find((cell) => cell.trim() !== "") ?? ""),
        }));
  const meaning = plan.headings?.meaning;
  const data =
    rows === undefined
      ? sorted.rows
      : [...sorted.rows, ...sorted.headings.map(({ row }) => row)]
          .filter((row) => !rows.has(row) && row > header.row)
          .sort((a, b) => a - b);
  const found = columnsIn(sheet, header, []);
  const isPlain =
    header.row < 0 &&
    plan.columns.every(
      ({ meaning: meaningId }) => meaningId === "guardian.address" || meaningId === "unread",
    );
  const columns = found.map(({ title, group }, index): TableColumn => {
    const column: ReadingPlan["columns"][number] = plan.columns[index] ?? {
      title,
      meaning: "unread",
      slot: 0,
    };
    const order =
      column.order ??
      (column.meaning === "answered"
        ? dateOrder(data.map((row) => sheet.rows[row]?.[index] ?? ""))
        : undefined);
    const { slotted } = meaningOf(column.meaning);
    return {
      ...(order === undefined ? {} : { order }),
      index,
      title,
      group,
      meaning: isPlain ? "guardian.address" : column.meaning,
      slot: isPlain ? index + 1 : slotted ? Math.max(column.slot, 1) : column.slot,
      confidence: 1,
    };
  });
  return {
    sheet: sheet.name,
    headerRow: header.row,
    columns,
    rows: data,
    aside:
      rows === undefined
        ? sorted.aside
        : [
            ...sorted.aside.filter(({ why, row }) => why !== "heading" && !rows.has(row)),
            ...[...rows]
              .filter((row) => row > header.row)
              .map((row) => ({ row, why: "heading" as const })),
          ],
    notes: [],
    ...(meaning === undefined || lines.length === 0 ? {} : { headings: { meaning, lines } }),
    ...(plan.everyRow === undefined || plan.sheet !== sheet.name
      ? {}
      : { everyRow: plan.everyRow }),
    ...manners(plan),
  };
}

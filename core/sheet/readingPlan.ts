import { fold } from "../text/fold";
import { askColumns, type ColumnQuestion } from "./columns/askColumns";
import type { FoundHeader } from "./findHeader";
import type { TableColumn, Table, ReadingPlan } from "./table";

/** A plan for another sheet with the titles of a table: each column by its title. */
export function byTitle(table: Table, { titles, row }: FoundHeader): ReadingPlan {
  const left = [...table.columns];
  const columns = titles.map((title, index): ReadingPlan["columns"][number] => {
    const key = fold(title);
    const straight = left.findIndex(
      (tableColumn) => tableColumn.index === index && fold(tableColumn.title) === key,
    );
    const at =
      straight >= 0
        ? straight
        : left.findIndex((tableColumn) => key !== "" && fold(tableColumn.title) === key);
    const [item] = at < 0 ? [] : left.splice(at, 1);
    return item === undefined
      ? { title, meaning: "unread", slot: 0 }
      : { ...columnPlan(item), title };
  });
  return { sheet: table.sheet, headerRow: row, columns, ...manners(table) };
}

/** What of a table a plan keeps beside its columns. */
export function manners({
  twoSurnames,
  joinLevel,
}: Pick<ReadingPlan, "twoSurnames" | "joinLevel">): Pick<Table, "twoSurnames" | "joinLevel"> {
  return {
    ...(twoSurnames === undefined ? {} : { twoSurnames }),
    ...(joinLevel === undefined ? {} : { joinLevel }),
  };
}

/** A column as a plan keeps it. */
function columnPlan({ title, meaning, slot, order }: TableColumn): ReadingPlan["columns"][number] {
  return {
    title,
    meaning,
    slot,
    ...(order === undefined || order === "unsure" ? {} : { order }),
  };
}

/** Everything about a table that has to be kept so that it can be read in the same way again. */
export function planOf(table: Table, others: readonly string[] = []): ReadingPlan {
  return {
    sheet: table.sheet,
    headerRow: table.headerRow,
    columns: table.columns.map(columnPlan),
    ...(others.length === 0 ? {} : { others: [...others] }),
    ...(table.headings === undefined
      ? {}
      : {
          headings: {
            meaning: table.headings.meaning,
            rows: table.headings.lines.map(({ row }) => row),
          },
        }),
    ...(table.everyRow === undefined || others.length > 0 ? {} : { everyRow: table.everyRow }),
    ...manners(table),
  };
}

/** The questions that a table leaves to a person. */
export function questionsOf(table: Table): ColumnQuestion[] {
  return askColumns(table.columns, { isWhole: table.joinLevel === true });
}

import { tidyLine } from "../text/tidy";
import type { MeaningId } from "./meanings/meaning";
import {
  splitName,
  withoutCallName,
  withoutCapitals,
  wholeName,
  type NameManner,
  type PersonName,
} from "./splitName";
import { splitChildren } from "./shapes/splitChildren";
import type { TableColumn, Table } from "./table";

/** What reading names needs of a table. */
export type NamedTable = Pick<Table, "columns" | "twoSurnames">;

/** The children that a row of a table can have, by the slots of their columns; 0 where it has one. */
export function childrenOf(columns: readonly TableColumn[]): number[] {
  const nameColumns = columns.filter(
    ({ meaning }) => meaning === "student.name" || meaning === "student.given",
  );
  const slots = [...new Set(nameColumns.map(({ slot }) => slot))].filter((slot) => slot > 0);
  return slots.length === 0 ? [0] : slots.sort((a, b) => a - b);
}

/** The column that holds something of a child: its own, or one for all children of the row. */
export function columnFor(
  columns: readonly TableColumn[],
  meaning: MeaningId,
  child = 0,
): TableColumn | undefined {
  let shared: TableColumn | undefined;
  for (const column of columns) {
    if (column.meaning !== meaning) continue;
    if (child > 0 && column.slot === child) return column;
    if (shared === undefined && (child === 0 || column.slot === 0)) shared = column;
  }
  return shared;
}

/** The name of a student in a row, by what its columns hold; of a row with several children that of the first. */
export function nameInRow(cells: readonly string[], table: NamedTable): PersonName {
  const listed = listReader(table);
  if (listed !== undefined) return listed(cells)[0]?.name ?? { given: "", family: "" };
  return nameReader(table, childrenOf(table.columns)[0] ?? 0)(cells);
}

/** A child whom a row names, with the class that is written with the name; empty for none. */
export interface NamedChild {
  name: PersonName;
  group: string;
}

/**
 * A reader of the children in the rows of a table that has a column for all children of a family. A surname that is written
 * once, beside them or with one of them, is that of all. Undefined where the table has no such column.
 */
export function listReader({
  columns,
  twoSurnames,
}: NamedTable): ((cells: readonly string[]) => NamedChild[]) | undefined {
  const column = columnFor(columns, "children");
  if (column === undefined) return undefined;
  const surname = columnFor(columns, "student.surname");
  const manner: NameManner = { twoSurnames, isTurkish: isTurkish(columns) };
  return (cells) => {
    const beside = surname === undefined ? "" : tidyLine(cells[surname.index] ?? "");
    const written = tidyLines(cells[column.index] ?? "");
    const found = splitChildren(written);
    const children = (found.length === 0 ? [{ name: tidyLine(written), group: "" }] : found)
      .map(({ name, group }) => ({
        name: splitName(withoutCallName(name), beside === "" ? [] : [beside], manner),
        group,
      }))
      .filter(({ name }) => wholeName(name) !== "");
    const shared = beside === "" ? children.findLast(({ name }) => name.family !== "") : undefined;
    return children.map(({ name, group }) => ({
      name: withoutCapitals(
        name.family === "" ? { given: name.given, family: shared?.name.family ?? beside } : name,
        manner,
      ),
      group,
    }));
  };
}

/** A cell with its line breaks, without needless spaces in each line. */
function tidyLines(cell: string): string {
  return cell
    .split(/[\r\n]+/)
    .map(tidyLine)
    .join("\n");
}

/** A reader of a child's name in the rows of a table. */
export function nameReader(
  { columns, twoSurnames }: NamedTable,
  child: number,
): (cells: readonly string[]) => PersonName {
  const at = (meaning: MeaningId): TableColumn | undefined => columnFor(columns, meaning, child);
  const [givenAt, familyAt, prefixAt, wholeAt] = [
    at("student.given"),
    at("student.surname"),
    at("student.prefix"),
    at("student.name"),
  ];
  const order = wholeAt?.order;
  const manner: NameManner = {
    twoSurnames,
    isTurkish: isTurkish(columns),
    ...(order === "family first" || order === "given first" ? { order } : {}),
  };
  return (cells) => {
    const text = (column: TableColumn | undefined): string =>
      column === undefined ? "" : withoutCallName(tidyLine(cells[column.index] ?? ""));
    const given = text(givenAt);
    const whole = text(wholeAt);
    const prefix = text(prefixAt);
    const family = prefix === "" ? text(familyAt) : `${prefix} ${text(familyAt)}`;
    // Of a row with several children, a surname for all of them names none.
    const isNamed =
      child === 0 ||
      given !== "" ||
      whole !== "" ||
      (familyAt !== undefined && familyAt.slot === child && family !== "");
    if (!isNamed) return { given: "", family: "" };
    if (given !== "" || whole === "") return withoutCapitals({ given, family }, manner);
    const name = splitName(whole, family === "" ? [] : [family], manner);
    return withoutCapitals(
      name.family === "" && family !== "" && wholeName(name) !== family
        ? { given: name.given, family }
        : name,
      manner,
    );
  };
}

/** Whether the titles of a table are Turkish: only Turkish has a letter "ı". */
export function isTurkish(columns: readonly Pick<TableColumn, "title">[]): boolean {
  return columns.some(({ title }) => /[ıİ]/.test(title));
}

import { tidyLine } from "../text/tidy";
import type { MeaningId } from "./meanings/meaning";
import type { Table, TableColumn } from "./readTable";
import { splitName, withoutCapitals, wholeName, type PersonName } from "./splitName";

const NAMES: ReadonlySet<MeaningId> = new Set<MeaningId>([
  "student.name",
  "student.given",
  "student.surname",
]);

/** The children that a row of a table can have, by the slots of their columns; 0 where it has one. */
export function childrenOf(columns: readonly TableColumn[]): number[] {
  const own = columns.filter(
    ({ meaning }) => meaning === "student.name" || meaning === "student.given",
  );
  const slots = [...new Set(own.map(({ slot }) => slot))].filter((slot) => slot > 0);
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

/** The name of a student in a row, by what its columns hold; of a row with several children that of one of them. */
export function nameInRow(
  cells: readonly string[],
  table: Pick<Table, "columns" | "twoSurnames">,
  child = childrenOf(table.columns)[0] ?? 0,
): PersonName {
  return withoutCapitals(nameAsWritten(cells, table, child));
}

function nameAsWritten(
  cells: readonly string[],
  { columns, twoSurnames }: Pick<Table, "columns" | "twoSurnames">,
  child: number,
): PersonName {
  const text = (meaning: MeaningId): string =>
    tidyLine(cells[columnFor(columns, meaning, child)?.index ?? -1] ?? "");
  const given = text("student.given");
  const family = [text("student.prefix"), text("student.surname")]
    .filter((part) => part !== "")
    .join(" ");
  const column = columnFor(columns, "student.name", child);
  const whole = column === undefined ? "" : tidyLine(cells[column.index] ?? "");
  const isNamed =
    child === 0 ||
    columns.some(
      (own) =>
        own.slot === child && NAMES.has(own.meaning) && tidyLine(cells[own.index] ?? "") !== "",
    );
  if (!isNamed) return { given: "", family: "" };
  if (given !== "" || (family !== "" && whole === "")) return { given, family };
  if (whole === "") return { given, family };
  const order = column?.order;
  const name = splitName(whole, family === "" ? [] : [family], {
    twoSurnames,
    ...(order === "family first" || order === "given first" ? { order } : {}),
  });
  return name.family === "" && family !== "" && wholeName(name) !== family
    ? { given: name.given, family }
    : name;
}

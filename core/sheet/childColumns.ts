import { columnFor, listReader, nameReader, type NamedChild } from "./nameInRow";
import type { MeaningId } from "./meanings/meaning";
import { wholeName, type PersonName } from "./splitName";
import type { TableColumn, Table } from "./table";

/** The columns that are about one child of a row. */
export function columnsOfChild(table: Table, child: number) {
  const at = (meaning: MeaningId): TableColumn | undefined =>
    columnFor(table.columns, meaning, child);
  return {
    children: listReader(table) ?? one(nameReader(table, child)),
    number: at("student.number"),
    level: at("student.level"),
    site: at("site"),
    address: at("student.address"),
    classes: at("classes"),
    teams: at("teams"),
    slots: child === 0 ? undefined : slotsOfChild(table.columns, child),
  };
}

/** The one child whom some columns of a row name, or none. */
function one(
  name: (cells: readonly string[]) => PersonName,
): (cells: readonly string[]) => NamedChild[] {
  return (cells) => {
    const found = name(cells);
    return wholeName(found) === "" ? [] : [{ name: found, group: "" }];
  };
}

function slotsOfChild(columns: readonly TableColumn[], child: number): Map<MeaningId, number> {
  return new Map(
    columns.flatMap((column) =>
      column.slot === child && !column.meaning.startsWith("guardian.")
        ? [[column.meaning, child] as const]
        : [],
    ),
  );
}

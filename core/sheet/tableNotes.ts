import { each, message, type Message } from "@amigo/language/message";
import { columnTitle } from "./columns/columnTitle";
import { profileColumn } from "./columns/profileColumn";
import { GROUP_MEANINGS } from "./meanings/groupMeanings";
import { isUsed } from "./meanings/isUsed";
import type { MeaningId } from "./meanings/meaning";
import { namesGroups } from "./namesGroups";
import { columnLetters, type FileFault } from "./sheet";
import type { Table, TableInSheet } from "./table";

/**
 * Says what a person should know before a table is imported: columns with names or addresses that aren't used, and what it
 * means that there is no class, surname or address.
 */
export function tableNotes({ table, sheet }: TableInSheet): Message[] {
  const has = (...meanings: readonly MeaningId[]): boolean =>
    table.columns.some(({ meaning }) => meanings.includes(meaning));
  if (!has(...NAMES)) return [];
  const unused = table.columns.flatMap(({ index, title, meaning }) => {
    if (isUsed(meaning)) return [];
    const { address, nameLike, count, distinct, wordsEach } = profileColumn(
      table.rows.map((row) => sheet.rows[row]?.[index] ?? ""),
    );
    const named = { title, letters: columnLetters(index) };
    if (count > 0 && address > 0.3) return [message("sheet.unusedAddresses", named)];
    const areNames = nameLike > 0.9 && wordsEach > 1.4 && wordsEach < 4 && distinct > 0.6;
    return count > 3 && areNames && meaning === "unread"
      ? [message("sheet.unusedNames", named)]
      : [];
  });
  return [
    ...(unused.length === 0 ? [] : [message("sheet.notUsed", { columns: each(unused, "comma") })]),
    ...(has("person.kind") && !has("family") ? [message("sheet.noFamilyColumn")] : []),
    ...((namesGroups(table) && !listsWithoutClasses({ table, sheet })) ||
    table.everyRow !== undefined
      ? []
      : [message("sheet.noClassColumn")]),
    ...(table.everyRow === undefined
      ? []
      : [message("sheet.everyRowIn", { name: table.everyRow.value })]),
    ...(has("student.name", "student.surname", "children") ? [] : [message("sheet.noSurnames")]),
    ...(has("student.name", "student.given", "children") ? [] : [message("sheet.noFirstNames")]),
    ...(has("guardian.address", "student.address") ? [] : [message("sheet.noAddresses")]),
  ];
}

/** Whether nothing but a list of a family's children could name classes, and it names none. */
function listsWithoutClasses({ table, sheet }: TableInSheet): boolean {
  const list = table.columns.find(({ meaning }) => meaning === "children");
  if (list === undefined || table.columns.some(({ meaning }) => GROUP_MEANINGS.has(meaning)))
    return false;
  const cells = table.rows.map((row) => sheet.rows[row]?.[list.index] ?? "");
  return table.headings === undefined && profileColumn(cells).childrenWithClasses <= 0.5;
}

const NAMES: readonly MeaningId[] = [
  "student.name",
  "student.surname",
  "student.given",
  "children",
];

/** What stands in the way of reading a table into the house: nothing in it names a student. Undefined when nothing does. */
export function tableFault(table: Table): FileFault | undefined {
  const has = new Set(table.columns.map((column) => column.meaning));
  const { sheet } = table;
  const isNamed = NAMES.some((meaning) => has.has(meaning));
  if (table.headerRow < 0 && !isNamed && has.has("guardian.address"))
    return {
      code: "plain-addresses",
      sentence: message("sheet.plainAddresses", { sheet }),
    };
  if (table.rows.length === 0)
    return {
      code: "no-rows",
      sentence: message("sheet.noRows", { sheet, row: table.headerRow + 1 }),
    };
  if (!isNamed) {
    const staff = table.columns[table.staff ?? -1];
    return {
      code: "no-name-column",
      sentence:
        staff === undefined
          ? message("sheet.noNameColumn", { sheet })
          : message("sheet.staffList", { sheet, column: columnTitle(staff) }),
    };
  }
  return undefined;
}

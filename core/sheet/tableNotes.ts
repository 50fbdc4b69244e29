import { profileColumn } from "./columns/profileColumn";
import { isUsed } from "./meanings/isUsed";
import type { MeaningId } from "./meanings/meaning";
import { namesGroups } from "./namesGroups";
import type { Table, TableInSheet } from "./readTable";
import { columnLetters, type FileFault } from "./sheet";

/**
 * Says what a person should know before a table is imported: columns with names or addresses that aren't used, and what it
 * means that there is no class, surname or address.
 */
export function tableNotes({ table, sheet }: TableInSheet): string[] {
  const has = (...meanings: readonly MeaningId[]): boolean =>
    table.columns.some(({ meaning }) => meanings.includes(meaning));
  if (!has("student.name", "student.given", "student.surname")) return [];
  const unused = table.columns.flatMap(({ index, title, meaning }) => {
    if (isUsed(meaning)) return [];
    const { address, nameLike, count, distinct, wordsEach } = profileColumn(
      table.rows.map((row) => sheet.rows[row]?.[index] ?? ""),
    );
    const named = title === "" ? `column ${columnLetters(index)}` : `"${title}"`;
    if (count > 0 && address > 0.3) return [`${named} (email addresses)`];
    const areNames = nameLike > 0.9 && wordsEach > 1.4 && wordsEach < 4 && distinct > 0.6;
    return count > 3 && areNames && meaning === "unread" ? [`${named} (perhaps names)`] : [];
  });
  return [
    ...(unused.length === 0 ? [] : [`Not used: ${unused.join(", ")}.`]),
    ...(namesGroups(table) || table.everyRow !== undefined
      ? []
      : [
          "No column names a class or team: the children are imported without one, and no list is made for a class.",
        ]),
    ...(table.everyRow === undefined
      ? []
      : [
          `Everybody here is imported into "${table.everyRow.value}", as the line above the table or the name says.`,
        ]),
    ...(has("student.name", "student.surname")
      ? []
      : ["No column holds surnames: two children of one first name can't be told apart."]),
    ...(has("student.name", "student.given")
      ? []
      : [
          "No column holds first names: children of one surname are taken for one child. Say above the columns which one holds them.",
        ]),
    ...(has("guardian.address", "student.address")
      ? []
      : ["No column holds email addresses: nobody can be reached by this sheet alone."]),
  ];
}

/** What stands in the way of reading a table into the house: nothing in it names a student. Undefined when nothing does. */
export function tableFault(table: Table): FileFault | undefined {
  const has = new Set(table.columns.map((column) => column.meaning));
  const place = `The sheet "${table.sheet}"`;
  const isNamed = has.has("student.name") || has.has("student.surname") || has.has("student.given");
  if (table.headerRow < 0 && !isNamed && has.has("guardian.address"))
    return {
      code: "plain-addresses",
      sentence: `${place} is a plain column of addresses: it says at whom mail would arrive, not who they are or where they belong. Add the students' names and classes beside them; or keep the addresses on a list, on that list's own page.`,
    };
  if (table.rows.length === 0)
    return {
      code: "no-rows",
      sentence: `${place} has titles in row ${table.headerRow + 1} but no rows below them. Choose another sheet, or fill the rows in and drop it again.`,
    };
  if (!isNamed) {
    return {
      code: "no-name-column",
      sentence: `${place} has no column with the students' names. Say above the columns which one holds them, or choose another sheet.`,
    };
  }
  return undefined;
}

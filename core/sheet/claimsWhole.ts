import { namesGroups } from "./namesGroups";
import type { Table } from "./table";

/**
 * Whether a sheet by its columns probably claims to be whole, so that who is absent from it has left. Answers to a form add
 * to what is known; so does a sheet that puts nobody in a class or team.
 *
 * @param classSheets whether every class has a sheet of its own, whose name is the class
 */
export function claimsWhole(
  table: Pick<Table, "columns" | "headings">,
  classSheets = false,
): boolean {
  const areAnswers = table.columns.some(({ meaning }) => meaning === "answered");
  return !areAnswers && (namesGroups(table) || classSheets);
}

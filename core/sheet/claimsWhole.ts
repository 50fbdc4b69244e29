import type { Table } from "./readTable";

/**
 * Whether a sheet by its columns probably claims to be whole, so that who is absent from it has left. Answers to a form add
 * to what is known; so does a sheet that puts nobody in a class or team.
 *
 * @param classSheets whether every class has a sheet of its own, whose name is the class
 */
export function claimsWhole({ columns }: Pick<Table, "columns">, classSheets = false): boolean {
  const has = new Set(columns.map(({ meaning }) => meaning));
  return !has.has("answered") && (has.has("classes") || has.has("teams") || classSheets);
}

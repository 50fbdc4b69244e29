import { GROUP_MEANINGS } from "./meanings/groupMeanings";
import type { Table } from "./table";

/** Whether a table says itself to which class or team its rows belong; a list of children mostly does. */
export function namesGroups({ columns, headings }: Pick<Table, "columns" | "headings">): boolean {
  return (
    headings !== undefined ||
    columns.some(({ meaning }) => GROUP_MEANINGS.has(meaning) || meaning === "children")
  );
}

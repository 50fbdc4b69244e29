import type { MeaningId } from "./meanings/meaning";
import type { Table } from "./readTable";

/** Whether a table says itself to which class or team its rows belong. */
export function namesGroups({ columns, headings }: Pick<Table, "columns" | "headings">): boolean {
  return headings !== undefined || columns.some(({ meaning }) => GROUPS.has(meaning));
}

const GROUPS: ReadonlySet<MeaningId> = new Set<MeaningId>([
  "classes",
  "teams",
  "classes.mark",
  "teams.mark",
]);

import type { DateRow } from "./dateQueries";

/** The parts of a date whose change matters to those who were invited. */
export const NEWS = ["when", "title", "place", "link", "text"] as const;
type Part = (typeof NEWS)[number];
/** What has changed of a date: one of those parts, or its files. */
export type News = Part | "files";

/** Which parts of a date have changed that matter to those who were invited. */
export function whatIsNew(
  before: DateRow,
  after: Pick<DateRow, Part> & Pick<DateRow, "repeat" | "changes">,
): Part[] {
  const same = (one: unknown, other: unknown): boolean => sorted(one) === sorted(other);
  return [
    ...(same(before.when, after.when) &&
    same(before.repeat, after.repeat) &&
    same(before.changes, after.changes)
      ? []
      : ["when" as const]),
    ...(["title", "place", "link", "text"] as const).filter((part) => before[part] !== after[part]),
  ];
}

/** A value as text, whatever order its parts come in. */
function sorted(value: unknown): string {
  return JSON.stringify(value, (_, part: unknown) =>
    typeof part === "object" && part !== null && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([one], [other]) => (one < other ? -1 : 1)))
      : part,
  );
}

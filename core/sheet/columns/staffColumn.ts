import type { ColumnEvidence } from "./columnEvidence";

/** A title says it at least this loudly. */
const LOUD = 0.6;

/**
 * Finds the column by which a sheet is a list of staff: one that says what their jobs are, or the only names, where those are
 * called teachers or coaches. Undefined where titles speak of children, parents or families, or nothing speaks of staff.
 */
export function staffColumn(columns: readonly ColumnEvidence[]): number | undefined {
  const isOfFamilies = columns.some(({ title: { whose } }) =>
    (["student", "guardian", "household"] as const).some((who) => (whose.get(who) ?? 0) > 0.4),
  );
  if (isOfFamilies) return undefined;
  const job = columns.findIndex(
    ({ title, profile }) =>
      profile.count > 0 &&
      !title.whose.has("staff") &&
      ((title.what.get("job") ?? 0) >= LOUD || (profile.jobs >= 0.5 && profile.nameLike > 0.8)),
  );
  if (job >= 0) return job;
  const isNamed = columns.some(
    ({ title: { what, whose } }) =>
      !whose.has("staff") &&
      (["name", "given", "surname"] as const).some((concept) => (what.get(concept) ?? 0) >= LOUD),
  );
  const called = columns.findIndex(
    ({ title: { whose, what }, profile }) =>
      (whose.get("staff") ?? 0) >= LOUD &&
      what.size === 0 &&
      profile.nameLike > 0.8 &&
      profile.wordsEach > 1.5 &&
      profile.distinct >= 0.5,
  );
  // Each of many teachers once: beside a class list, a teacher stands in many rows.
  const isList = called >= 0 && !isNamed && isEachOnce(columns[called]);
  return isList ? called : undefined;
}

function isEachOnce(column: ColumnEvidence | undefined): boolean {
  const cells = column?.cells.filter((cell) => cell !== "") ?? [];
  return cells.length > 1 && new Set(cells).size >= cells.length * 0.9;
}

import type { Evidence } from "../columns/evidence";
import { columnsOf, type Relation } from "./relation";

/**
 * Where each row is one person, a child or an adult, something says which rows are a family, and there are no columns for
 * guardians beside those for children.
 */
export const personRows: Relation = {
  id: "a row for each person",
  points: (labels, evidence) => {
    const families = columnsOf(labels, "family");
    const [kind] = columnsOf(labels, "person.kind");
    if (kind === undefined) return -9 * families.length;
    const guardians = columnsOf(
      labels,
      "guardian.name",
      "guardian.given",
      "guardian.surname",
      "guardian.relationship",
      "children",
    );
    const [family] = families;
    // Juniors and adults of a club are all members; only parents, or families, make a sheet one of children and their adults.
    if (family === undefined && (evidence.columns[kind]?.profile.parents ?? 0) < 0.1) return -9;
    // Whose an address is, a child's or an adult's, the row says.
    const own = columnsOf(labels, "student.address").length;
    return -5 * (guardians.length + own) + (family === undefined ? -1 : joins(family, evidence));
  },
};

/** How well a column tells which rows belong together: some of its values stand in several rows, and most rows aren't alike. */
function joins(family: number, { columns }: Evidence): number {
  const cells = columns[family]?.cells.filter((cell) => cell !== "") ?? [];
  const sizes = new Map<string, number>();
  for (const cell of cells) sizes.set(cell, (sizes.get(cell) ?? 0) + 1);
  const largest = Math.max(0, ...sizes.values());
  const several = [...sizes.values()].filter((size) => size > 1).length;
  return several === 0 || largest > MOST_IN_FAMILY ? -6 : 2;
}

const MOST_IN_FAMILY = 15;

import type { Likeness } from "../columns/compareColumns";
import type { Evidence } from "../columns/evidence";
import { columnsOf, type Relation } from "./relation";

const OWN = 4;
/** How much speaks for a parent's address where there is no other. */
const PARENTS = 2.5;
/** How much speaks against that where every address there is holds a first name of its row. */
const MEMBERS = 3.5;

/** Addresses often hold the name of whom they belong to. */
export const nameInAddress: Relation = {
  id: "name in address",
  points: (labels, evidence) => {
    const guardians = columnsOf(labels, "guardian.name", "guardian.given", "guardian.surname");
    const students = columnsOf(labels, "student.name", "student.given", "student.surname");
    let points = 0;
    for (const address of columnsOf(labels, "guardian.address")) {
      const found = best(guardians, address, evidence);
      const child = best(students, address, evidence);
      points += OWN * found;
      // A child's own name in an address that isn't a guardian's: it is probably the child's.
      if (guardians.length > 0 && child - found > 0.3) points -= 1.5 * (child - found);
    }
    const guardianAddresses = columnsOf(labels, "guardian.address").length;
    for (const address of columnsOf(labels, "student.address")) {
      const found = best(students, address, evidence);
      const ofFirst = Math.max(
        0,
        ...columnsOf(labels, "student.given", "student.name").map((name) =>
          surplus(evidence.holdsFirst(name, address)),
        ),
      );
      const given = best(columnsOf(labels, "student.given", "student.name"), address, evidence);
      // Where there is one address for each child it is mostly a parent's, whatever it is called, unless it holds the child's
      // own name, as those of grown-up members do.
      if (guardianAddresses === 0)
        points += MEMBERS * Math.min(1, Math.max(0, (ofFirst - 0.3) / 0.6)) - PARENTS;
      const other = best(guardians, address, evidence);
      points += OWN * Math.min(found, given + 0.1) - OWN * Math.max(0, other - 0.1);
    }
    return points;
  },
};

/** How much better than by chance the best of some name columns fits an address column, 0 to 1. */
function best(names: readonly number[], address: number, evidence: Evidence): number {
  return Math.max(0, ...names.map((name) => surplus(evidence.holds(name, address))));
}

/** How much more often something holds than it would by chance, 0 to 1. */
export function surplus({ share, chance }: Likeness): number {
  return Math.max(0, share - chance);
}

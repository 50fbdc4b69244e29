import { surplus } from "./nameInAddress";
import { columnsOf, type Relation } from "./relation";

/** A guardian's surname is often the child's; a guardian's given name is hardly ever. */
export const sharedSurname: Relation = {
  id: "shared surname",
  points: (labels, evidence) => {
    const guardians = columnsOf(labels, "guardian.name", "guardian.surname");
    const given = columnsOf(labels, "guardian.given");
    const shared = (column: number, others: readonly number[]): number =>
      Math.max(0, ...others.map((other) => surplus(evidence.shares(column, other))));
    let points = 0;
    for (const column of columnsOf(labels, "student.surname"))
      points += 3 * shared(column, guardians) - 3 * shared(column, given);
    for (const column of columnsOf(labels, "student.given"))
      points -= 3 * shared(column, guardians) + shared(column, given);
    for (const column of columnsOf(labels, "student.name"))
      points += 1.5 * shared(column, guardians);
    return points;
  },
};

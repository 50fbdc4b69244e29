import { columnsOf, type Relation } from "./relation";

/** Rows with the same address are brothers and sisters: one surname, one guardian, different given names. */
export const siblings: Relation = {
  id: "siblings",
  points: (labels, evidence) => {
    let points = 0;
    const lean = (address: number, column: number): number => {
      const { share, groups } = evidence.sameWithin(address, column);
      return groups === 0 ? 0 : (share - 0.5) * 2 * Math.min(1, groups / 3);
    };
    for (const address of columnsOf(labels, "guardian.address")) {
      for (const column of columnsOf(labels, "student.surname")) points += lean(address, column);
      for (const column of columnsOf(labels, "student.given", "student.name"))
        points -= 1.2 * lean(address, column);
      for (const column of columnsOf(labels, "guardian.name", "guardian.given"))
        points += 0.6 * lean(address, column);
    }
    return points;
  },
};

import { columnsOf, type Relation } from "./relation";

/** Surname and given name stand side by side, a guardian's name near the address, students mostly before guardians. */
export const neighbours: Relation = {
  id: "neighbours",
  points: (labels) => {
    let points = 0;
    for (let at = 0; at + 1 < labels.length; at++) {
      const pair = [labels[at], labels[at + 1]];
      if (pair.includes("student.given") && pair.includes("student.surname")) points += 0.8;
      if (pair.includes("guardian.given") && pair.includes("guardian.surname")) points += 0.8;
      if (
        labels[at + 1] === "guardian.address" &&
        (labels[at] === "guardian.name" ||
          labels[at] === "guardian.given" ||
          labels[at] === "guardian.surname")
      )
        points += 0.3;
    }
    const student = columnsOf(labels, "student.name", "student.given", "student.surname")[0];
    const guardian = columnsOf(labels, "guardian.name", "guardian.given", "guardian.surname")[0];
    if (student !== undefined && guardian !== undefined) points += student < guardian ? 1.3 : -1.3;
    return points;
  },
};

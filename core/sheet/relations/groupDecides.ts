import { columnsOf, type Relation } from "./relation";

/** A class decides its teacher, and mostly its site and level. */
export const groupDecides: Relation = {
  id: "group decides",
  points: (labels, evidence) => {
    const groups = columnsOf(labels, "classes", "teams");
    let points = groups.length > 0 ? 1.5 : 0;
    for (const group of groups) {
      for (const coach of columnsOf(labels, "coach", "coach.address"))
        points += evidence.decides(group, coach) > 0.95 ? 0.8 : -0.3;
      for (const other of columnsOf(labels, "student.level", "site"))
        points += evidence.decides(group, other) > 0.95 ? 0.4 : -0.2;
    }
    return points;
  },
};

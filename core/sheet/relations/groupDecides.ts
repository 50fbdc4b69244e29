import { columnsOf, type Relation } from "./relation";

const NAMED = 3;
const LEVEL = 1.4;

/** A class decides its teacher, and mostly its site and level. */
export const groupDecides: Relation = {
  id: "group decides",
  points: (labels, evidence) => {
    const groups = columnsOf(labels, "classes", "teams");
    const marks = columnsOf(labels, "classes.mark", "teams.mark").length;
    // Nearly every sheet of a school names a class or team; a year or grade can stand for it.
    let points =
      groups.length + (marks > 1 ? 1 : 0) > 0
        ? NAMED
        : columnsOf(labels, "student.level").length > 0
          ? LEVEL
          : 0;
    // Beside one, another column of a few values is something else unless its title says so.
    for (const group of groups.slice(1))
      if (evidence.columns[group]?.title.known === false) points -= 2;
    if (groups.length > 1 && evidence.columns[groups[0] ?? 0]?.title.known === false) points -= 2;
    for (const group of groups) {
      const { title, profile } = evidence.columns[group] ?? {};
      // A class or team stands with nearly every row; that of a second child doesn't.
      const filled = profile?.filled ?? 0;
      const isFurther = evidence.children > 1 && Number(title?.slot) > 1;
      // A number that counts the rows of one child is no class, unless its title says so.
      if (title?.known === false && (profile?.smallNumber ?? 0) > 0.7)
        for (const child of columnsOf(labels, "student.name", "student.number")) {
          const { share, groups: rows } = evidence.sameWithin(child, group);
          if (rows > 0 && share < 0.95) points -= 3;
        }
      if (!isFurther) points -= filled < 0.6 ? 2.5 : filled < 0.9 ? 0.5 : 0;
      for (const coach of columnsOf(labels, "coach", "coach.address"))
        points += evidence.decides(group, coach) > 0.95 ? 0.8 : -0.3;
      for (const other of columnsOf(labels, "student.level", "site"))
        points += evidence.decides(group, other) > 0.95 ? 0.4 : -0.2;
    }
    return points;
  },
};

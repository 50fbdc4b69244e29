import { columnsOf, type Relation } from "./relation";

/** A row names a student: by a whole name, or by surname and given name, and not by both. */
export const namedStudent: Relation = {
  id: "named student",
  points: (labels, { children, columns, people, staff }) => {
    const named = columnsOf(labels, "student.name", "student.given", "student.surname", "children");
    const lists = columnsOf(labels, "children").length;
    const whole = columnsOf(labels, "student.name").length;
    const given = columnsOf(labels, "student.given").length;
    const family = columnsOf(labels, "student.surname").length;
    // A list of teachers names no student either.
    const others = named.filter((index) => {
      const whose = columns[index]?.title.whose;
      return whose?.has("staff") === true || whose?.has("other") === true;
    }).length;
    if (others > 0) return -9 * others;
    // A price list names nobody, and must not be made to.
    if (!people) return -4 * (whole + given + family + lists);
    if (named.length === 0) return staff === undefined ? -5 : 0;
    // Beside a list of all children there is a surname for all of them at most.
    if (lists > 0) return (family > 0 ? 0.8 : 0) - 5 * (whole + given);
    if (children > 1) {
      const isAlike = whole === 0 || given === 0;
      return (isAlike ? 1.5 : 0) + (family > 0 ? (given > 0 ? 1.5 : -1) : 0);
    }
    // A student's name stands in nearly every row; that of a second guardian doesn't.
    const gaps = Math.max(...named.map((index) => 1 - (columns[index]?.profile.filled ?? 0)));
    const filled = gaps > 0.04 ? -Math.min(3, gaps * 10) : 0;
    if (whole > 0) return filled + (given + family > 0 ? -5 * (given + family) : 0);
    return filled + (given > 0 && family > 0 ? 0.8 : -2.5);
  },
};

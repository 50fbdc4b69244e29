import { columnsOf, type Relation } from "./relation";

/** Classes across with marks below come in several columns, and nearly every row has a mark in one. */
export const severalMarks: Relation = {
  id: "several marks",
  points: (labels, { columns }) => {
    const marks = columnsOf(labels, "classes.mark", "teams.mark");
    if (marks.length === 0) return 0;
    if (marks.length === 1) return -6;
    const [first = 0] = marks;
    const rows = columns[first]?.cells.length ?? 0;
    let marked = 0;
    for (let row = 0; row < rows; row++)
      if (marks.some((index) => (columns[index]?.cells[row] ?? "") !== "")) marked++;
    const teams = columnsOf(labels, "teams.mark").length;
    const others = columnsOf(labels, "classes").length;
    return (
      (rows === 0 || marked / rows > 0.5 ? 1.5 : -4) +
      -2 * Math.min(teams, marks.length - teams) +
      (others > 0 ? teams * 0.5 - (marks.length - teams) : -teams * 0.3)
    );
  },
};

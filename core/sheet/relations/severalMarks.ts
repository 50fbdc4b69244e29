import type { Evidence } from "../columns/evidence";
import { columnsOf, type Relation } from "./relation";

/** Classes across with marks below come in several columns, and nearly every row has a mark in one. */
export const severalMarks: Relation = {
  id: "several marks",
  points: (labels, evidence) => {
    const marks = columnsOf(labels, "classes.mark", "teams.mark");
    if (marks.length === 0) return 0;
    if (marks.length === 1) return -6;
    const teams = columnsOf(labels, "teams.mark").length;
    const others = columnsOf(labels, "classes").length;
    return (
      (shareMarked(evidence) > 0.5 ? 1.5 : -4) +
      -2 * Math.min(teams, marks.length - teams) +
      (others > 0 ? teams * 0.5 - (marks.length - teams) : -teams * 0.3)
    );
  },
};

/** The share of rows with a mark in any column that has little but marks. */
function shareMarked(evidence: Evidence): number {
  const before = SHARES.get(evidence);
  if (before !== undefined) return before;
  const marks = evidence.columns.filter(({ profile }) => profile.mark > 0.9);
  const rows = marks[0]?.cells.length ?? 0;
  let marked = 0;
  for (let row = 0; row < rows; row++)
    if (marks.some(({ cells }) => (cells[row] ?? "") !== "")) marked++;
  const share = rows === 0 ? 1 : marked / rows;
  SHARES.set(evidence, share);
  return share;
}

/** A sheet is weighed thousands of times over; its marks stay where they are. */
const SHARES = new WeakMap<Evidence, number>();

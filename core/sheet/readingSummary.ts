import { counted } from "../text/sentence";
import type { WholeReading } from "./readAll";
import type { TableInSheet } from "./readTable";

/** What an import makes of a sheet, counted. Every row below the titles that isn't blank is in one of `read` and `aside`. */
export interface ReadingCounts {
  rows: number;
  children: number;
  aside: number;
  toFix: number;
  /** Rows that name somebody who stands in another row already. */
  again: number;
  otherSeasons: WholeReading["otherSeasons"];
}

/** Counts the rows of a reading, what is set aside of them, and what somebody has to fix. */
export function countReading(
  tables: readonly TableInSheet[],
  read: Pick<WholeReading, "records" | "faults" | "otherSeasons">,
  children: number,
): ReadingCounts {
  const remarks = tables.reduce(
    (sum, { table }) =>
      sum + table.aside.filter(({ why }) => why !== "blank" && why !== "repeated header").length,
    0,
  );
  const rows = remarks + tables.reduce((sum, { table }) => sum + table.rows.length, 0);
  return {
    rows,
    children,
    aside: rows - new Set(read.records.map(({ sheet, row }) => `${row} ${sheet}`)).size,
    toFix: read.faults.filter(
      ({ answer, fault, correction }) =>
        answer !== "clean" && fault !== "no-name" && correction === undefined,
    ).length,
    again: Math.max(0, read.records.length - children),
    otherSeasons: read.otherSeasons,
  };
}

/** One line that says what an import does: `64 rows: 62 children, 2 set aside; 3 cells to fix`. */
export function readingSummary(counts: ReadingCounts): string {
  const { rows, children, aside, toFix, again, otherSeasons } = counts;
  const ofOthers = otherSeasons.reduce((sum, own) => sum + own.rows, 0);
  const parts = [
    counted(children, "child", "children"),
    ...(again > 0 ? [`${counted(again, "more row")} about the same children`] : []),
    ...otherSeasons.map(({ season, rows: own }) => `${own} of season ${season} set aside`),
    ...(aside - ofOthers > 0 ? [`${aside - ofOthers} set aside`] : []),
  ];
  return `${counted(rows, "row")}: ${parts.join(", ")}${toFix > 0 ? `; ${counted(toFix, "cell")} to fix` : ""}`;
}

/** Says which rows were set aside because they are about another season. */
export function otherSeasonNotes(otherSeasons: WholeReading["otherSeasons"]): string[] {
  return otherSeasons.map(
    ({ season, rows }) =>
      `${counted(rows, "row")} of season ${season} ${rows === 1 ? "was" : "were"} set aside.`,
  );
}

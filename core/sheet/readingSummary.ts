import { each, message, type Message } from "@amigo/language/message";
import type { WholeReading } from "./readAll";
import type { TableInSheet } from "./table";

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
    aside: rows - rowsRead(read.records).size,
    toFix: read.faults.filter(
      ({ answer, fault, correction }) =>
        answer !== "clean" && fault !== "no-name" && correction === undefined,
    ).length,
    again: Math.max(0, read.records.length - children),
    otherSeasons: read.otherSeasons,
  };
}

/** Returns the rows that say something: those about students, and those of guardians who have rows of their own. */
function rowsRead(records: WholeReading["records"]): Set<string> {
  const rows = new Set<string>();
  for (const { sheet, row, guardians } of records)
    for (const read of [row, ...guardians.flatMap((guardian) => guardian.row ?? [])])
      rows.add(`${read} ${sheet}`);
  return rows;
}

/** Returns one line that says what an import does: `64 rows: 62 children, 2 set aside; 3 cells to fix`. */
export function readingSummary(counts: ReadingCounts): Message {
  const { rows, children, aside, toFix, again, otherSeasons } = counts;
  const ofOthers = otherSeasons.reduce((sum, other) => sum + other.rows, 0);
  const parts = [
    message("sheet.summaryChildren", { children }),
    ...(again > 0 ? [message("sheet.summaryAgain", { again })] : []),
    ...otherSeasons.map((other) => message("sheet.summarySeason", { ...other })),
    ...(aside - ofOthers > 0 ? [message("sheet.summaryAside", { aside: aside - ofOthers })] : []),
  ];
  return message("sheet.summary", { rows, parts: each(parts, "comma"), toFix });
}

/** Returns which rows were set aside because they are about another season. */
export function otherSeasonNotes(otherSeasons: WholeReading["otherSeasons"]): Message[] {
  return otherSeasons.map(({ season, rows }) => message("sheet.otherSeason", { season, rows }));
}

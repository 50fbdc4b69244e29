import { fold } from "../text/fold";
import { tidyLine } from "../text/tidy";
import { ALL_MEANINGS } from "./meanings/allMeanings";
import type { Sheet } from "./sheet";

/** A header stands within this many rows from the top. */
const SEARCHED_ROWS = 60;

/** How the header row of a sheet was found. Rows are counted from 0. */
export interface FoundHeader {
  row: number;
  /** The titles, one a column. */
  titles: string[];
  /** The joined titles above them, one a column, empty where there is none. */
  groups: string[];
  /** The number of titles that mean something to Amigo. */
  understood: number;
}

/** Finds the row that names the columns: the one with most titles that mean something and no data. */
export function findHeader(sheet: Sheet): FoundHeader | undefined {
  let best: { row: number; score: number; understood: number } | undefined;
  const rows = Math.min(sheet.rows.length, SEARCHED_ROWS);
  for (let row = 0; row < rows; row++) {
    const cells = (sheet.rows[row] ?? []).map(tidyLine);
    const filled = cells.filter((cell) => cell !== "");
    if (filled.length === 0) continue;
    const scores = filled.map(titleScore);
    const understood = scores.filter((score) => score > 0).length;
    const data = filled.filter((cell) => /@/.test(cell) || /^\d/.test(cell)).length;
    const score =
      scores.reduce((sum, value) => sum + value, 0) -
      data * 1.5 -
      filled.filter((cell) => cell.length > 60).length;
    if (understood > 0 && score > 0 && (best === undefined || score > best.score))
      best = { row, score, understood };
  }
  return best === undefined ? undefined : headerAt(sheet, best.row, best.understood);
}

/** Of a plain column of addresses so many cells in a hundred hold an @. */
const PLAIN = 60;

/** The header of a sheet that has none: a plain column of addresses, or a paste of them. Its row is -1, above the first. */
export function headerOfPlainAddresses(sheet: Sheet): FoundHeader | undefined {
  const filled = sheet.rows.flat().filter((cell) => cell.trim() !== "");
  const widest = sheet.rows.reduce(
    (most, row) => Math.max(most, row.filter((cell) => cell.trim() !== "").length),
    0,
  );
  const addresses = filled.filter((cell) => cell.includes("@")).length;
  return filled.length > 0 &&
    addresses * 100 >= filled.length * PLAIN &&
    addresses > 1 &&
    widest > 0
    ? { row: -1, titles: [], groups: [], understood: 0 }
    : undefined;
}

/** The header of a sheet when a person has said which row it is. */
export function headerAt(sheet: Sheet, row: number, understood = 0): FoundHeader {
  const titles = (sheet.rows[row] ?? []).map(tidyLine);
  const groups = titles.map(() => "");
  const above = sheet.joined.filter(
    (span) => span.firstRow === row - 1 && span.lastRow === row - 1,
  );
  for (const span of above) {
    const text = tidyLine(sheet.rows[row - 1]?.[span.firstColumn] ?? "");
    for (
      let column = span.firstColumn;
      column <= span.lastColumn && column < groups.length;
      column++
    )
      groups[column] = text;
  }
  return { row, titles, groups, understood };
}

function titleScore(title: string): number {
  const folded = fold(title);
  return Math.max(
    0,
    ...ALL_MEANINGS.flatMap((meaning) =>
      meaning.titles.filter(([pattern]) => pattern.test(folded)).map(([, score]) => score),
    ),
  );
}

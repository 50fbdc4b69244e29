import { fold } from "../text/fold";
import { tidyLine } from "../text/tidy";
import { readTitle } from "./columns/readTitle";
import { lexicon } from "./lexicon/lexicon";
import type { Sheet } from "./sheet";

/** A header stands within this many rows from the top. */
const SEARCHED_ROWS = 60;
/** How many rows below a title are compared with it. */
const LOOK_BELOW = 40;
/** The least points of a row that names columns. */
const LEAST = 1;

/** How the header row of a sheet was found. Rows are counted from 0. */
export interface FoundHeader {
  /** -1 where the sheet has no titles and begins with its first row. */
  row: number;
  /** The titles, one a column. */
  titles: string[];
  /** The joined titles above them, one a column, empty where there is none. */
  groups: string[];
  /** How much speaks for it. */
  points: number;
}

/**
 * Finds the row that names the columns: by the words in it, and by what stands below it. A sheet that has none begins with
 * its first row.
 *
 * @returns undefined where nothing in the sheet is like a table
 */
export function findHeader(sheet: Sheet): FoundHeader | undefined {
  const rows = Math.min(sheet.rows.length, SEARCHED_ROWS);
  const points: number[] = [];
  let best = -1;
  let dataAbove = 0;
  for (let row = 0; row < rows; row++) {
    const found = headerPoints(sheet, row) - dataAbove * 1.5;
    points.push(found);
    if (found >= LEAST && (best < 0 || found > (points[best] ?? 0) + 0.2)) best = row;
    dataAbove += (sheet.rows[row] ?? []).some((cell) => cell.includes("@")) ? 1 : 0;
  }
  if (best < 0) return looksLikeTable(sheet) ? headerAt(sheet, -1) : undefined;
  // Titles over titles: the lower row names the columns, the upper one whose they are.
  const below = points[best + 1] ?? 0;
  if (isUpperRow(sheet, best) && below >= LEAST && below >= (points[best] ?? 0) * 0.35) best++;
  return headerAt(sheet, best, points[best]);
}

/** The header of a sheet when it is known which row it is. */
export function headerAt(sheet: Sheet, row: number, points = 0): FoundHeader {
  if (row < 0) return { row: -1, titles: [], groups: [], points };
  const titles = (sheet.rows[row] ?? []).map(tidyLine);
  const above = (sheet.rows[row - 1] ?? []).map(tidyLine);
  const groups = titlesAbove(sheet, row, Math.max(titles.length, above.length));
  const isHeader = groups.some((group) => group !== "");
  for (const [column, title] of above.entries()) {
    while (titles.length <= column) titles.push("");
    // A title that goes over both rows stands in the upper one.
    if (isHeader && titles[column] === "" && title !== "" && !isSpread(sheet, row - 1, column)) {
      titles[column] = title;
      groups[column] = "";
    }
  }
  return { row, titles, groups: titles.map((_, column) => groups[column] ?? ""), points };
}

/** The titles above a header row, each over the columns that it goes for. */
function titlesAbove(sheet: Sheet, row: number, width: number): string[] {
  const groups = Array.from({ length: width }, () => "");
  const above = (sheet.rows[row - 1] ?? []).map(tidyLine);
  const spans = sheet.joined.filter(
    (span) =>
      span.firstRow === row - 1 && span.lastRow === row - 1 && span.lastColumn > span.firstColumn,
  );
  for (const span of spans) {
    const text = above[span.firstColumn] ?? "";
    // A line over the whole sheet is its title.
    if (span.lastColumn - span.firstColumn + 1 >= width && width > 3 && spans.length === 1)
      continue;
    for (let column = span.firstColumn; column <= span.lastColumn && column < width; column++)
      groups[column] = text;
  }
  if (spans.length > 0) return groups;
  const named = above.flatMap((text, column) => (text !== "" && saysWhose(text) ? [column] : []));
  const filled = above.filter((text) => text !== "").length;
  if (named.length === 0 || filled === 1 || named.length * 2 < filled) return groups;
  let current = "";
  for (let column = 0; column < width; column++) {
    const text = above[column] ?? "";
    if (text !== "") current = saysWhose(text) ? text : "";
    groups[column] = current;
  }
  return groups;
}

function saysWhose(text: string): boolean {
  return (
    text.length <= 40 && readTitle({ title: text, group: "" }, new Map(), lexicon()).whose.size > 0
  );
}

function isSpread(sheet: Sheet, row: number, column: number): boolean {
  return sheet.joined.some(
    (span) =>
      span.firstRow === row &&
      span.lastRow === row &&
      span.lastColumn > span.firstColumn &&
      column >= span.firstColumn &&
      column <= span.lastColumn,
  );
}

/** Whether a row has gaps or joined cells, as a row of titles over titles has. */
function isUpperRow(sheet: Sheet, row: number): boolean {
  const foundRow = sheet.rows[row] ?? [];
  const below = sheet.rows[row + 1] ?? [];
  const filled = foundRow.filter((cell) => cell.trim() !== "").length;
  const filledBelow = below.filter((cell) => cell.trim() !== "").length;
  if (below.some((cell) => cell.includes("@"))) return false;
  const gaps = below.some(
    (cell, column) => cell.trim() !== "" && (foundRow[column] ?? "").trim() === "",
  );
  return (
    filledBelow >= 2 &&
    (gaps || filled < filledBelow) &&
    !below.some((cell) => /^\d/.test(cell.trim()))
  );
}

/** How much speaks for a row naming the columns below it. */
function headerPoints(sheet: Sheet, row: number): number {
  const cells = (sheet.rows[row] ?? []).map(tidyLine);
  const filled = cells.filter((cell) => cell !== "").length;
  if (filled === 0) return 0;
  // A header that is written on every page doesn't speak against itself.
  const found = cells.join("|");
  const comesAgain = sheet.rows
    .slice(row + 1, row + LOOK_BELOW)
    .some((other) => other[0]?.trim() === cells[0] && other.map(tidyLine).join("|") === found);
  const seen = new Set<string>();
  let points = 0;
  let known = 0;
  cells.forEach((cell, column) => {
    if (cell === "") return;
    const key = fold(cell);
    if (/@/.test(cell) || /^[+\d(][\d\s()./:+-]*$/.test(cell)) {
      points -= 1.5;
      return;
    }
    if (cell.length > 90) points -= 1;
    const title = readTitle({ title: cell, group: "" }, new Map(), lexicon());
    if (title.what.size + title.whose.size > 0) {
      points += 1;
      known++;
    } else points += cell.length <= 30 && !/^\d/.test(cell) ? 0.15 : -0.2;
    if (seen.has(key)) points -= 0.1;
    seen.add(key);
    points += contrast(sheet, row, column, comesAgain ? undefined : key);
  });
  const width = Math.max(
    ...sheet.rows
      .slice(row, row + LOOK_BELOW)
      .map((other) => other.filter((cell) => cell.trim() !== "").length),
  );
  // A line of one cell over a wide table is a remark; so is one that leaves most of the table's columns blank.
  if (filled * 3 < width) points -= 2;
  return known === 0 && filled < 2 ? Math.min(points, 0.9) : points;
}

/** How unlike the cells below a title is: it isn't an address, a number or a date where they are, and doesn't come again. */
function contrast(sheet: Sheet, row: number, column: number, title: string | undefined): number {
  let count = 0;
  let addresses = 0;
  let numbers = 0;
  let again = 0;
  for (let below = row + 1; below < Math.min(sheet.rows.length, row + LOOK_BELOW); below++) {
    const cell = (sheet.rows[below]?.[column] ?? "").trim();
    if (cell === "") continue;
    count++;
    if (cell.includes("@")) addresses++;
    else if (/^[+\d(][\d\s()./:+-]*$/.test(cell)) numbers++;
    if (title !== undefined && cell.length < 60 && fold(cell) === title) again++;
  }
  if (count === 0) return -0.3;
  return (
    (addresses / count > 0.3 ? 1 : 0) +
    (numbers / count > 0.7 ? 0.5 : 0) -
    (again / count > 0.12 ? 0.7 : 0)
  );
}

/** Whether rows of several cells stand below each other, or a plain column of addresses does. */
function looksLikeTable(sheet: Sheet): boolean {
  const filled = sheet.rows.filter((row) => row.filter((cell) => cell.trim() !== "").length > 1);
  const cells = sheet.rows.flat().filter((cell) => cell.trim() !== "");
  const addresses = cells.filter((cell) => cell.includes("@")).length;
  return filled.length > 1 || (addresses > 1 && addresses * 100 >= cells.length * 60);
}

/** The columns of a sheet with their data cells. */
export function columnsIn(sheet: Sheet, header: FoundHeader, rows: readonly number[]) {
  const width = sheet.rows.reduce(
    (widest, row, index) => (index >= header.row ? Math.max(widest, row.length) : widest),
    0,
  );
  return Array.from({ length: width }, (_, index) => ({
    title: header.titles[index] ?? "",
    group: header.groups[index] ?? "",
    cells: rows.map((row) => sheet.rows[row]?.[index] ?? ""),
  }));
}

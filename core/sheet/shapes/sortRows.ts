import { fold } from "../../text/fold";
import { tidyLine } from "../../text/tidy";
import type { FoundHeader } from "../findHeader";
import { lexicon } from "../lexicon/lexicon";
import type { Sheet } from "../sheet";
import { saysGroup } from "./className";

/** Why a row below the header is not read. */
export type AsideReason = "blank" | "total" | "remark" | "repeated header" | "heading";

/** The rows of a sheet below its header, sorted by what they are. Rows count from 0. */
export interface SortedRows {
  rows: number[];
  aside: { row: number; why: AsideReason }[];
  /** Lines between blocks of rows that say what the rows below them belong to. */
  headings: { row: number; text: string }[];
}

/** A heading line has at least this many rows below it, on average. */
const ROWS_EACH = 1.5;

/** Sorts the rows below a header: data, headings of blocks, repeated headers, totals, remarks, blank lines. */
export function sortRows(sheet: Sheet, header: FoundHeader): SortedRows {
  const titled = header.titles.filter((title) => title !== "").length;
  const titles = new Set(header.titles.map(fold).filter((title) => title !== ""));
  const width = widthOf(sheet, header);
  const kinds = new Map<number, AsideReason | "data" | "line">();
  for (let row = header.row + 1; row < sheet.rows.length; row++)
    kinds.set(row, kindOf(sheet.rows[row] ?? [], { titled, titles, width }));
  const lines = [...kinds].flatMap(([row, kind]) => (kind === "line" ? [row] : []));
  const before = lineAbove(sheet, header);
  const joined = new Set(
    sheet.joined
      .filter(({ firstColumn, lastColumn }) => lastColumn > firstColumn)
      .map(({ firstRow }) => firstRow),
  );
  const inNames = wordsBeside(sheet, lines, kinds);
  const headings = lines.filter((row) => isHeading(sheet, row, { kinds, joined, width, inNames }));
  const areAmong = new Set(headings);
  const data = [...kinds.values()].filter((kind) => kind === "data").length;
  const areNamed = headings.every((row) => saysGroup(textOf(sheet, row)));
  const areHeadings =
    headings.length > 0 &&
    headings.length + (before === undefined ? 0 : 1) >= 2 &&
    data >= headings.length * (areNamed ? 1 : ROWS_EACH) &&
    (headings.length * 2 >= lines.length || areNamed);
  const sorted: SortedRows = { rows: [], aside: [], headings: [] };
  if (areHeadings && before !== undefined && !areAmong.has(firstData(kinds) - 1))
    sorted.headings.push({ row: before, text: textOf(sheet, before) });
  for (const [row, kind] of kinds) {
    if (kind === "data") sorted.rows.push(row);
    else if (kind !== "line") sorted.aside.push({ row, why: kind });
    else if (areHeadings && areAmong.has(row)) {
      sorted.aside.push({ row, why: "heading" });
      sorted.headings.push({ row, text: textOf(sheet, row) });
    } else if (isPlainRemark(sheet.rows[row] ?? [], Math.max(titled, width)))
      sorted.aside.push({ row, why: "remark" });
    else sorted.rows.push(row);
  }
  return sorted;
}

function widthOf(sheet: Sheet, header: FoundHeader): number {
  const titled = header.titles.filter((title) => title !== "").length;
  if (titled > 0) return titled;
  return Math.max(
    0,
    ...sheet.rows.slice(0, 50).map((row) => row.filter((cell) => cell.trim() !== "").length),
  );
}

function kindOf(
  cells: readonly string[],
  { titled, titles, width }: { titled: number; titles: ReadonlySet<string>; width: number },
): AsideReason | "data" | "line" {
  const filled = cells.filter((cell) => cell.trim() !== "");
  if (filled.length === 0) return "blank";
  if (isTotal(filled, Math.max(titled, width))) return "total";
  if (filled.length > 1 && titles.size > 1) {
    const again = filled.filter((cell) => cell.length < 100 && titles.has(fold(cell))).length;
    if (again >= 2 && again >= filled.length * 0.7) return "repeated header";
  }
  const [only = ""] = filled;
  const isLine = width > 1 && new Set(filled.map((cell) => cell.trim())).size === 1;
  return isLine && !only.includes("@") ? "line" : "data";
}

/** A line is a heading where rows of data follow it, and it doesn't stand amid them like one of them. */
function isHeading(
  sheet: Sheet,
  row: number,
  {
    kinds,
    joined,
    width,
    inNames,
  }: {
    kinds: ReadonlyMap<number, AsideReason | "data" | "line">;
    /** The rows that begin joined cells. */
    joined: ReadonlySet<number>;
    width: number;
    /** Words that stand in the rows of data in the same column. */
    inNames: ReadonlySet<string>;
  },
): boolean {
  let next = row + 1;
  while (kinds.get(next) === "blank" || kinds.get(next) === "repeated header") next++;
  if (kinds.get(next) !== "data") return false;
  const text = textOf(sheet, row);
  if (text.length > 60 || /[.!?]$/.test(text)) return false;
  const before = kinds.get(row - 1);
  const isApart =
    before === "blank" || before === "total" || kinds.get(row + 1) === "repeated header";
  return (
    joined.has(row) ||
    isApart ||
    saysGroup(text) ||
    /\d/.test(text) ||
    !looksLikePerson(text, { inNames, width })
  );
}

/** In a table of two columns, a line of two words or more is somebody without an address rather than a heading. */
const NARROW = 2;

function looksLikePerson(
  text: string,
  { inNames, width }: { inNames: ReadonlySet<string>; width: number },
): boolean {
  const words = text.split(/[\s,]+/).filter((word) => word !== "");
  return (
    words.length <= 4 &&
    (words.some((word) => lexicon().given.has(fold(word)) || inNames.has(fold(word))) ||
      (width <= NARROW && words.length > 1 && words.every((word) => /^\p{Lu}/u.test(word))))
  );
}

/** How many rows are looked at for the words of people's names. */
const MOST_ROWS = 2000;

/** The words in the rows of data, in the columns in which lines stand. */
function wordsBeside(
  sheet: Sheet,
  lines: readonly number[],
  kinds: ReadonlyMap<number, AsideReason | "data" | "line">,
): Set<string> {
  const places = new Set(
    lines.map((row) => (sheet.rows[row] ?? []).findIndex((cell) => cell.trim() !== "")),
  );
  const words = new Set<string>();
  if (lines.length === 0) return words;
  let left = MOST_ROWS;
  for (const [row, kind] of kinds) {
    if (kind !== "data") continue;
    if (left-- === 0) break;
    for (const place of places)
      for (const word of (sheet.rows[row]?.[place] ?? "").slice(0, 100).split(/[\s,]+/))
        if (word.length > 2) words.add(fold(word));
  }
  return words;
}

/** The line right above a header; undefined unless its row has one filled cell. */
function lineAbove(sheet: Sheet, { row }: FoundHeader): number | undefined {
  for (let above = row - 1; above >= Math.max(0, row - 2); above--) {
    const filled = (sheet.rows[above] ?? []).filter((cell) => cell.trim() !== "");
    if (filled.length === 0) continue;
    return filled.length === 1 && textOf(sheet, above).length <= 60 ? above : undefined;
  }
  return undefined;
}

function firstData(kinds: ReadonlyMap<number, AsideReason | "data" | "line">): number {
  for (const [row, kind] of kinds) if (kind === "data") return row;
  return -1;
}

function textOf(sheet: Sheet, row: number): string {
  return tidyLine((sheet.rows[row] ?? []).find((cell) => cell.trim() !== "") ?? "");
}

/** A single text at the start of a row of a wider table. */
function isPlainRemark(cells: readonly string[], titled: number): boolean {
  const filled = cells.filter((cell) => cell.trim() !== "");
  return (
    titled > 2 && cells[0]?.trim() === filled[0]?.trim() && /\s/.test((filled[0] ?? "").trim())
  );
}

/** A totals line starts with a word for it and leaves most of the titled columns blank. */
function isTotal(filled: readonly string[], titled: number): boolean {
  const words = fold((filled[0] ?? "").slice(0, 80)).split(" ");
  const { totals } = lexicon();
  const begins = [1, 2].some((size) => totals.has(words.slice(0, size).join(" ")));
  return begins && filled.length <= Math.max(2, titled / 2);
}

import { type Message } from "@amigo/language/message";
/** A span of joined cells, all ends inclusive, counted from 0. */
export interface JoinedCells {
  firstRow: number;
  lastRow: number;
  firstColumn: number;
  lastColumn: number;
}

/** One sheet as it was written: every cell a text, as its reader would see it. */
export interface Sheet {
  name: string;
  hidden: boolean;
  /** `rows[0]` is the row that the spreadsheet calls 1. Rows may be of different length. */
  rows: string[][];
  joined: JoinedCells[];
  /** Whether it is a part of a sheet whose tables stand side by side. */
  apart?: boolean;
}

export interface Workbook {
  format: "xlsx" | "ods" | "xls" | "text";
  sheets: Sheet[];
}

/** Why a whole file or sheet can't be read; the sentence says what, where and what to do. */
export interface FileFault {
  code:
    | "empty-file"
    | "too-large"
    | "too-many-rows"
    | "too-many-cells"
    | "too-long-cell"
    | "unpacks-too-far"
    | "not-a-spreadsheet"
    | "broken-file"
    | "locked-file"
    | "empty-sheet"
    | "no-header"
    | "no-name-column"
    | "no-such-sheet"
    | "no-rows"
    | "plain-addresses";
  sentence: Message;
}

export type OrFileFault<Value> = ({ ok: true } & Value) | { ok: false; fault: FileFault };

/** Limits on one file. `bytes` and `unpackedBytes` are octets; `cellText` and `text` are signs. */
export interface FileLimits {
  bytes: number;
  unpackedBytes: number;
  /** Of each sheet. */
  rows: number;
  columns: number;
  sheets: number;
  /** Filled cells of all sheets. */
  cells: number;
  /** What one cell may hold: as much as spreadsheet programs allow. */
  cellText: number;
  /** What all cells may hold. */
  text: number;
}

export const FILE_LIMITS: FileLimits = {
  bytes: 25 * 1024 * 1024,
  unpackedBytes: 600 * 1024 * 1024,
  rows: 200_000,
  columns: 256,
  sheets: 1000,
  cells: 6_000_000,
  cellText: 32_767,
  text: 150_000_000,
};

/** The letters by which a spreadsheet names a column, counted from 0: `A`, `Z`, `AA`. */
export function columnLetters(index: number): string {
  let letters = "";
  for (let rest = index + 1; rest > 0; rest = Math.floor((rest - 1) / 26))
    letters = String.fromCharCode(65 + ((rest - 1) % 26)) + letters;
  return letters;
}

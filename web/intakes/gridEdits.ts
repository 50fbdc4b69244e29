import Papa from "papaparse";
import {
  INTAKE_COLUMNS,
  LONGEST_CELL,
  type IntakeCells,
  type IntakeColumn,
} from "@amigo/core/intake/intake";
import type { CellChange } from "@amigo/contract/intakes";

/** A cell by its row's id and its column, counted from 0. */
export interface Place {
  row: string;
  column: number;
}

/** A row as the grid shows it, whether it is on the server yet or not. */
export interface GridRow {
  id: string;
  cells: IntakeCells;
  /** What was carried out is not written in any more. */
  locked: boolean;
}

/** Where two places span, as indexes of rows and columns, all ends inclusive. */
export interface Span {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

const COLUMNS = INTAKE_COLUMNS.length;

export function spanOf(rows: readonly GridRow[], anchor: Place, active: Place): Span {
  const at = (id: string): number =>
    Math.max(
      rows.findIndex((row) => row.id === id),
      0,
    );
  const [one, other] = [at(anchor.row), at(active.row)];
  return {
    top: Math.min(one, other),
    bottom: Math.max(one, other),
    left: Math.min(anchor.column, active.column),
    right: Math.max(anchor.column, active.column),
  };
}

/** Where a step leads, staying within the grid. */
export function moved(rows: readonly GridRow[], from: Place, down: number, across: number): Place {
  const at = Math.max(
    rows.findIndex((row) => row.id === from.row),
    0,
  );
  const row = rows[Math.min(Math.max(at + down, 0), rows.length - 1)];
  return {
    row: row?.id ?? from.row,
    column: Math.min(Math.max(from.column + across, 0), COLUMNS - 1),
  };
}

/** The next cell in reading order, or the one before. */
export function stepped(rows: readonly GridRow[], from: Place, forward: boolean): Place {
  if (forward)
    return from.column < COLUMNS - 1
      ? moved(rows, from, 0, 1)
      : { ...moved(rows, from, 1, 0), column: 0 };
  return from.column > 0
    ? moved(rows, from, 0, -1)
    : { ...moved(rows, from, -1, 0), column: COLUMNS - 1 };
}

/** Writes one text in one cell; nothing where it stands there already or may not be written. */
export function write(row: GridRow | undefined, column: number, text: string): CellChange[] {
  const name = INTAKE_COLUMNS[column];
  if (row === undefined || name === undefined || row.locked) return [];
  const is = text.replace(/\s+/g, " ").trim().slice(0, LONGEST_CELL);
  return is === row.cells[name] ? [] : [{ row: row.id, column: name, was: row.cells[name], is }];
}

/**
 * Rows and columns copied out of a spreadsheet, laid over the grid from a place on. One copied cell fills the whole span.
 *
 * @param rows the grid with as many rows as it takes; see `rowsNeeded`
 */
export function paste(rows: readonly GridRow[], span: Span, text: string): CellChange[] {
  const lines = pastedLines(text);
  if (lines.length === 1 && lines[0]?.length === 1)
    return fill(rows, span, () => lines[0]?.[0] ?? "");
  return lines.flatMap((cells, down) =>
    cells
      .slice(0, COLUMNS - span.left)
      .flatMap((cell, across) => write(rows[span.top + down], span.left + across, cell)),
  );
}

/** How many rows a grid must have to take what is pasted from a row on. */
export function rowsNeeded(span: Span, text: string): number {
  return span.top + pastedLines(text).length;
}

function pastedLines(text: string): string[][] {
  return Papa.parse<string[]>(text.replace(/\r?\n$/, ""), { delimiter: "\t" }).data;
}

/** The first row of a span written over those below it; of a single row, the one above it. */
export function fillDown(
  rows: readonly GridRow[],
  { top, bottom, left, right }: Span,
): CellChange[] {
  const from = top === bottom ? top - 1 : top;
  const source = rows[from];
  if (source === undefined) return [];
  return fill(rows, { top: from + 1, bottom, left, right }, (column) => source.cells[column]);
}

export function clear(rows: readonly GridRow[], span: Span): CellChange[] {
  return fill(rows, span, () => "");
}

function fill(
  rows: readonly GridRow[],
  { top, bottom, left, right }: Span,
  textFor: (column: IntakeColumn) => string,
): CellChange[] {
  return rows
    .slice(top, bottom + 1)
    .flatMap((row) =>
      INTAKE_COLUMNS.slice(left, right + 1).flatMap((column, at) =>
        write(row, left + at, textFor(column)),
      ),
    );
}

/** What takes changes back, in the opposite order. */
export function inverse(changes: readonly CellChange[]): CellChange[] {
  return [...changes]
    .reverse()
    .map(({ row, column, was, is }) => ({ row, column, was: is, is: was }));
}

/** A span as text that a spreadsheet takes when it is pasted there. */
export function copied(rows: readonly GridRow[], { top, bottom, left, right }: Span): string {
  return Papa.unparse(
    rows
      .slice(top, bottom + 1)
      .map((row) => INTAKE_COLUMNS.slice(left, right + 1).map((column) => row.cells[column])),
    { delimiter: "\t", newline: "\n" },
  );
}

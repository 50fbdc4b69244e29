import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { INTAKE_COLUMNS, type IntakeCells } from "@amigo/core/intake/intake";
import type { CellChange } from "@amigo/contract/intakes";
import {
  clear,
  copied,
  fillDown,
  inverse,
  moved,
  paste,
  rowsNeeded,
  spanOf,
  stepped,
  write,
  type GridRow,
} from "./gridEdits";

const cells = (person = "", address = "", to = "", from = "", until = ""): IntakeCells => ({
  person,
  address,
  to,
  from,
  until,
});
const row = (id: string, intakeCells: IntakeCells, locked = false): GridRow => ({
  id,
  cells: intakeCells,
  locked,
});
const ROWS = [
  row("a", cells("Otto", "otto@lettr.example", "Trapeze Two")),
  row("b", cells("Una")),
  row("c", cells("Per", "", "Wire Walk"), true),
  row("d", cells()),
];

/** The rows after some changes. */
function after(rows: readonly GridRow[], changes: readonly CellChange[]): GridRow[] {
  return changes.reduce<GridRow[]>(
    (change, { row: id, column, is }) =>
      change.map((one) =>
        one.id === id ? { ...one, cells: { ...one.cells, [column]: is } } : one,
      ),
    [...rows],
  );
}

const at = (row_: string, column: number) => ({ row: row_, column });
const span = (one: string, column: number, other = one, last = column) =>
  spanOf(ROWS, at(one, column), at(other, last));

describe("going through the grid", () => {
  test("stays within it, and reads on at the end of a row", () => {
    expect(moved(ROWS, at("a", 0), -1, -1)).toEqual(at("a", 0));
    expect(moved(ROWS, at("d", 4), 5, 5)).toEqual(at("d", 4));
    expect(stepped(ROWS, at("a", 4), true)).toEqual(at("b", 0));
    expect(stepped(ROWS, at("b", 0), false)).toEqual(at("a", 4));
    expect(stepped(ROWS, at("a", 1), true)).toEqual(at("a", 2));
  });

  test("a span is the same from either corner", () => {
    expect(spanOf(ROWS, at("c", 3), at("a", 1))).toEqual({ top: 0, bottom: 2, left: 1, right: 3 });
    expect(spanOf(ROWS, at("a", 1), at("c", 3))).toEqual(spanOf(ROWS, at("c", 3), at("a", 1)));
  });
});

describe("changing it", () => {
  test("a cell is written as one line, once, and not where it is locked", () => {
    expect(write(ROWS[0], 0, " Otto \n Bell ")).toEqual([
      { row: "a", column: "person", was: "Otto", is: "Otto Bell" },
    ]);
    expect(write(ROWS[0], 0, "Otto")).toEqual([]);
    expect(write(ROWS[2], 0, "Other")).toEqual([]);
    expect(write(undefined, 0, "x")).toEqual([]);
  });

  test("what a spreadsheet copied is laid over the grid, beyond locked cells and within the columns", () => {
    expect(paste(ROWS, span("b", 3), "1 Dec\t20 Dec\tmore\nx\ty\n")).toEqual([
      { row: "b", column: "from", was: "", is: "1 Dec" },
      { row: "b", column: "until", was: "", is: "20 Dec" },
    ]);
    expect(paste(ROWS, span("a", 0, "d", 0), "Everybody").map(({ row: id }) => id)).toEqual([
      "a",
      "b",
      "d",
    ]);
    expect(paste(ROWS, span("b", 0), '"two\nlines"\tx@lettr.example')[0]?.is).toBe("two lines");
    expect(rowsNeeded(span("d", 0), "a\nb\nc\n")).toBe(6);
  });

  test("is filled down from its first row, or from the row above", () => {
    expect(fillDown(ROWS, span("a", 2, "d", 2)).map(({ row: id, is }) => [id, is])).toEqual([
      ["b", "Trapeze Two"],
      ["d", "Trapeze Two"],
    ]);
    expect(fillDown(ROWS, span("b", 1)).map(({ is }) => is)).toEqual(["otto@lettr.example"]);
    expect(fillDown(ROWS, span("a", 1))).toEqual([]);
  });

  test("is copied so that a spreadsheet, and the grid itself, takes it as it was", () => {
    expect(copied(ROWS, span("a", 0, "b", 1))).toBe("Otto\totto@lettr.example\nUna\t");
    fc.assert(
      fc.property(
        fc.array(
          fc.array(
            fc
              .string({ unit: "grapheme-ascii", maxLength: 12 })
              .map((text) => text.replace(/\s+/g, " ").trim()),
            { minLength: 5, maxLength: 5 },
          ),
          { minLength: 2, maxLength: 6 },
        ),
        (texts) => {
          const from = texts.map((cellText, index) =>
            row(
              `from${index}`,
              Object.fromEntries(
                INTAKE_COLUMNS.map((column, place) => [column, cellText[place] ?? ""]),
              ) as IntakeCells,
            ),
          );
          const to = texts.map((_, index) => row(`to${index}`, cells()));
          const whole = { top: 0, bottom: texts.length - 1, left: 0, right: 4 };
          expect(
            after(to, paste(to, whole, copied(from, whole))).map((grid) => grid.cells),
          ).toEqual(from.map((grid) => grid.cells));
        },
      ),
    );
  });

  test("is taken back whatever was done, and nothing else with it", () => {
    const change = fc.oneof(
      fc.tuple(fc.nat(3), fc.nat(4), fc.string()).map(
        ([down, across, text]) =>
          (rows: GridRow[]) =>
            write(rows[down], across, text),
      ),
      fc
        .tuple(
          fc.nat(3),
          fc.nat(3),
          fc.nat(4),
          fc.nat(4),
          fc.constantFrom("x", "a\tb\nc\td", "\t\t"),
        )
        .map(
          ([one, other, left, right, text]) =>
            (rows: GridRow[]) =>
              paste(
                rows,
                {
                  top: Math.min(one, other),
                  bottom: Math.max(one, other),
                  left: Math.min(left, right),
                  right: Math.max(left, right),
                },
                text,
              ),
        ),
      fc.tuple(fc.nat(3), fc.nat(4)).map(
        ([down, across]) =>
          (rows: GridRow[]) =>
            fillDown(rows, { top: down, bottom: 3, left: across, right: 4 }),
      ),
      fc
        .nat(3)
        .map(
          (down) => (rows: GridRow[]) => clear(rows, { top: 0, bottom: down, left: 0, right: 4 }),
        ),
    );
    fc.assert(
      fc.property(fc.array(change, { maxLength: 6 }), (steps) => {
        let rows = ROWS;
        const done: CellChange[][] = [];
        for (const step of steps) {
          const made = step(rows);
          done.push(made);
          rows = after(rows, made);
        }
        for (const made of done.reverse()) {
          for (const { row: id, column, was } of inverse(made))
            expect(rows.find((grid) => grid.id === id)?.cells[column]).toBe(was);
          rows = after(rows, inverse(made));
        }
        expect(rows).toEqual(ROWS);
      }),
    );
  });
});

import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { cellAfter, isMove, type GridSize } from "./gridMoves";

/** A board as it is drawn: `#` is a cell to go to, `-` a heading of a site, `.` a missing list. */
function board(...lines: string[]): GridSize {
  return {
    lines: lines.length,
    columns: 3,
    hasCell: ({ line, column }) => lines[line]?.[column] === "#",
  };
}

const SIZE = board("---", "#.#", "##.", "---", "#.#");

describe("a key on the board", () => {
  test.each([
    ["ArrowRight", [1, 0], [1, 2]],
    ["ArrowLeft", [1, 2], [1, 0]],
    ["ArrowDown", [1, 0], [2, 0]],
    ["ArrowDown", [2, 0], [4, 0]],
    ["ArrowUp", [4, 0], [2, 0]],
    ["ArrowDown", [1, 2], [4, 2]],
    ["PageDown", [1, 0], [4, 0]],
    ["PageUp", [4, 0], [1, 0]],
    ["Home", [4, 2], [1, 2]],
    ["End", [1, 2], [4, 2]],
    ["ArrowUp", [1, 0], [1, 0]],
    ["ArrowDown", [2, 1], [2, 1]],
  ])("%s leads from %j to %j", (key, [line = 0, column = 0], [toLine, toColumn]) => {
    expect(cellAfter(key, { line, column }, SIZE)).toEqual({ line: toLine, column: toColumn });
  });

  test("leads nowhere at the edge of a line", () => {
    expect(cellAfter("ArrowRight", { line: 1, column: 2 }, SIZE)).toBeUndefined();
    expect(cellAfter("ArrowLeft", { line: 2, column: 0 }, SIZE)).toBeUndefined();
  });

  test("is a move only if it is an arrow, Page, Home or End", () => {
    expect(["ArrowUp", "End", "w", "Enter", "toString"].map(isMove)).toEqual([
      true,
      true,
      false,
      false,
      false,
    ]);
  });

  test("always leads to a cell that is there, if to any", () => {
    fc.assert(
      fc.property(
        fc.array(fc.stringMatching(/^[#.-]{3}$/), { minLength: 1, maxLength: 12 }),
        fc.constantFrom(
          "ArrowUp",
          "ArrowDown",
          "ArrowLeft",
          "ArrowRight",
          "PageDown",
          "Home",
          "End",
        ),
        fc.nat(11),
        fc.nat(2),
        (lines, key, line, column) => {
          const size = board(...lines);
          const to = cellAfter(key, { line: Math.min(line, lines.length - 1), column }, size);
          if (to !== undefined) expect(size.hasCell(to)).toBe(true);
        },
      ),
    );
  });
});

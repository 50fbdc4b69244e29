import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { SharedRows } from "./sharedRows";

describe("rows that imports share", () => {
  // The second import has a row more at its top; the third has two sheets in another order.
  const shared = new SharedRows([
    { reading: "first", next: "second", runs: [0, 6, 2, 0, 7, 0, 2, 3, 0, 3] },
    { reading: "second", next: "third", runs: [0, 4, 2, 1, 1, 0, 8, 1, 1, 40] },
  ]);

  test.each([
    ["before any run", "first", 0, 1, "first 0 1"],
    ["the first of a run", "first", 0, 2, "second 0 3"],
    ["through two imports", "first", 0, 3, "third 1 1"],
    ["the last of a run", "first", 0, 4, "third 1 2"],
    ["between two runs", "first", 0, 5, "first 0 5"],
    ["the last of all, through two imports", "first", 0, 7, "third 1 40"],
    ["after all runs", "first", 0, 8, "first 0 8"],
    ["in another sheet", "first", 1, 3, "first 1 3"],
    ["of the newest", "third", 1, 1, "third 1 1"],
    ["of an import that shares nothing", "other", 0, 2, "other 0 2"],
  ])("are found: %s", (_, reading, sheet, row, place) => {
    const found = shared.placeOf({ reading, sheet, row });
    expect(`${found.reading} ${found.sheet} ${found.row}`).toBe(place);
  });

  test("are listed whole, or those of a part of a sheet", () => {
    const rows = (range?: { sheet: number; from: number; until: number }): number[] =>
      shared.listShared("first", range).map(({ row }) => row);
    expect(rows()).toEqual([2, 3, 4, 6, 7]);
    expect(rows({ sheet: 0, from: 3, until: 7 })).toEqual([3, 4, 6]);
    expect(rows({ sheet: 0, from: 5, until: 6 })).toEqual([]);
    expect(rows({ sheet: 1, from: 1, until: 9 })).toEqual([]);
    expect(shared.listShared("third")).toEqual([]);
  });

  test("tell with which imports they are stored", () => {
    expect([...shared.readings].sort()).toEqual(["first", "second", "third"]);
    expect([...new SharedRows([]).readings]).toEqual([]);
  });

  test("are found as in a plain table, whatever the runs", () => {
    const rowsOf = fc.uniqueArray(fc.integer({ min: 1, max: 30 }), { maxLength: 20 });
    fc.assert(
      fc.property(fc.array(rowsOf, { minLength: 1, maxLength: 5 }), (imports) => {
        // Row r of an import is row r + 100 of the next one; each row is a run of its own, in any order.
        const parts = imports.map((rows, at) => ({
          reading: String(at),
          next: String(at + 1),
          runs: rows.flatMap((row) => [0, row + 100 * at, 1, 0, row + 100 * (at + 1)]),
        }));
        const found = new SharedRows(parts);
        for (let row = 1; row <= 30; row++) {
          let at = 0;
          while (imports[at]?.includes(row) === true) at++;
          expect(found.placeOf({ reading: "0", sheet: 0, row })).toEqual({
            reading: String(at),
            sheet: 0,
            row: row + 100 * at,
          });
        }
      }),
    );
  });
});

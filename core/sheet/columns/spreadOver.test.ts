import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { planOf } from "../readingPlan";
import { readTable } from "../readTable";
import { readText } from "../readWorkbook";
import { spreadOver } from "./spreadOver";

describe("the rows that are looked at", () => {
  test("are in order, each once, and spread over all of them", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 50_000 }),
        fc.integer({ min: 1, max: 400 }),
        (rows, most) => {
          const looked = spreadOver(rows, most);
          expect(looked.length).toBe(rows < 2 * most ? rows : most);
          for (const [at, row] of looked.entries()) {
            expect(row).toBeGreaterThan(looked[at - 1] ?? -1);
            expect(row).toBeLessThan(rows);
          }
          const [last = 0] = looked.slice(-1);
          expect(rows - last).toBeLessThanOrEqual(
            Math.ceil((2 * rows) / Math.max(1, looked.length)),
          );
        },
      ),
    );
  });

  test.each([2, 3, 4, 5, 6, 7, 8, 10, 12, 16])(
    "meet every place of a rhythm of %i rows about equally often",
    (rhythm) => {
      for (const rows of [900, 1200, 1800, 2400, 4800, 20_000]) {
        const met = new Map<number, number>();
        for (const row of spreadOver(rows, 300))
          met.set(row % rhythm, (met.get(row % rhythm) ?? 0) + 1);
        expect(met.size).toBe(rhythm);
        expect(Math.max(...met.values())).toBeLessThan((2.2 * 300) / rhythm);
      }
    },
  );
});

/** A column of levels in turn, as a sheet has it that is sorted by something else. */
test.each([1200, 1800, 2000, 3000, 6000])(
  "a level that goes from 1 to 6 again and again is a level in a sheet of %i rows",
  (rows) => {
    const lines = Array.from(
      { length: rows },
      (_, at) =>
        `CW-${at},Holm${at % 97},Ida${at % 53},${(at % 6) + 1},Class ${at % 40},otto${at}@lettr.example`,
    );
    const book = readText(
      ["Student no.,Surname,First name,Level,Class,Parent e-mail", ...lines].join("\n"),
    );
    if (!book.ok) throw new Error("not read");
    const found = readTable(book.workbook);
    if (!found.ok) throw new Error("no table");
    expect(planOf(found.table).columns.map(({ meaning }) => meaning)).toEqual([
      "student.number",
      "student.surname",
      "student.given",
      "student.level",
      "classes",
      "guardian.address",
    ]);
  },
);

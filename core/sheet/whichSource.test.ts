import { describe, expect, test } from "vitest";
import { columnsKept, studentSample, whichSource, type WhichSource } from "./whichSource";
import type { ReadingPlan } from "./table";

const like = (source: string, columns: number, kept: number, known: number) => ({
  source,
  columns,
  kept,
  known,
});

describe("which source a dropped sheet belongs to", () => {
  test.each<[string, ReturnType<typeof like>[], WhichSource]>([
    ["there is none yet", [], { is: "new" }],
    [
      "the roster a week on",
      [like("roster", 0.9, 0.98, 0.97), like("team", 0.6, 0.05, 0.02)],
      { is: "the next of", source: "roster" },
    ],
    [
      "a form with many more answers than before",
      [like("form", 1, 1, 0.1)],
      { is: "the next of", source: "form" },
    ],
    ["another coach's sheet from the same template", [like("team A", 1, 0, 0)], { is: "new" }],
    [
      "a sheet that fits two alike",
      [like("team A", 1, 0.6, 0.5), like("team B", 1, 0.5, 0.5)],
      { is: "unsure", sources: ["team A", "team B"] },
    ],
    [
      "a sheet with a few of the same",
      [like("team A", 1, 0.3, 0.2)],
      { is: "unsure", sources: ["team A"] },
    ],
    [
      "the same children in other columns",
      [like("roster", 0.5, 0.95, 0.95)],
      { is: "unsure", sources: ["roster"] },
    ],
    ["other columns, other children", [like("roster", 0.2, 0.1, 0.1)], { is: "new" }],
  ])("%s", (_what, sources, wanted) => expect(whichSource(sources)).toEqual(wanted));

  test("columns count by title or by what they hold", () => {
    const plan = (
      ...columns: [string, ReadingPlan["columns"][number]["meaning"]][]
    ): ReadingPlan => ({
      sheet: "S",
      headerRow: 0,
      columns: columns.map(([title, meaning]) => ({ title, meaning, slot: 0 })),
    });
    const last = plan(
      ["Name", "student.name"],
      ["Group", "classes"],
      ["Notes", "unread"],
      ["Coach", "coach"],
    );
    expect(columnsKept(plan(["Name", "student.name"], ["Class", "classes"]), last)).toBeCloseTo(
      2 / 3,
    );
    expect(columnsKept(plan(["Coach", "unread"]), last)).toBeCloseTo(1 / 3);
    const wide = plan(
      ["Group", "classes"],
      ["A", "coach"],
      ["B", "site"],
      ["C", "teams"],
      ["D", "season"],
      ["E", "student.name"],
    );
    expect(columnsKept(wide, last)).toBeCloseTo(1 / 2);
    const answers = plan(
      ["Name", "student.name"],
      ["Group", "classes"],
      ["Coach", "coach"],
      ["At", "answered"],
    );
    expect(columnsKept(answers, last)).toBeLessThan(0.4);
    expect(columnsKept({ ...wide, others: ["4B"] }, last)).toBeLessThan(0.4);
  });

  test("a sample holds the same students whatever the sheet", () => {
    const record = (at: number) =>
      ({ name: { given: `G${at}`, family: `F${at}` } }) as Parameters<
        typeof studentSample
      >[0][number];
    const all = Array.from({ length: 400 }, (_, at) => record(at));
    const some = studentSample(all, 8);
    expect(some.length).toBeGreaterThan(20);
    expect(some.length).toBeLessThan(90);
    expect(studentSample(all.slice(100), 8).every((key) => some.includes(key))).toBe(true);
  });
});

import { describe, expect, test } from "vitest";
import { outlineOf, type OutlineCount } from "./outline";

function counted(kind: string, name: string, count: number, held = 0): OutlineCount {
  return {
    kind,
    name,
    count,
    accepted: count - held,
    unreachable: kind === "joined" && held > 0 ? 1 : 0,
    joins: 2 * count,
    leaves: 0,
    replaced: 1,
  };
}

describe("the outline of a round", () => {
  test("has a section for each kind, in the order in which they come", () => {
    const { shown, held, sections } = outlineOf(
      [counted("moved", "Hoops", 1), counted("joined", "", 2, 1), counted("moved", "Silks", 3)],
      false,
      new Map(),
    );
    expect({ shown, held }).toEqual({ shown: 6, held: 1 });
    expect(sections).toEqual([
      { key: "moved", count: 4, accepted: 4, classes: null },
      { key: "joined", count: 2, accepted: 1, classes: null },
    ]);
  });

  test("counts a section by class from the twenty-fifth cause on", () => {
    const classesOf = (count: number) =>
      outlineOf([counted("moved", "Hoops", count - 1), counted("moved", "", 1)], false, new Map())
        .sections[0]?.classes;
    expect(classesOf(24)).toBeNull();
    expect(classesOf(25)).toMatchObject([
      { name: "Hoops", count: 24, students: 0, others: 24, joins: 48, replaced: 1 },
      { name: "", count: 1, others: 1 },
    ]);
  });

  test("doesn't count causes without a class by class", () => {
    expect(outlineOf([counted("list", "", 60)], false, new Map()).sections[0]?.classes).toBeNull();
  });

  test("puts new classes together with everybody who joins them where a round is read by class", () => {
    const [classes, staff] = outlineOf(
      [
        counted("cohort", "Wire Walk", 1),
        counted("staff", "", 1),
        counted("joined", "Acro Pairs", 15, 2),
        counted("joined", "Wire Walk", 15),
      ],
      true,
      new Map([["Wire Walk", { guardians: 21, newLists: 2 }]]),
    ).sections;
    expect(classes).toMatchObject({ key: "classes", count: 31, accepted: 29 });
    expect(classes?.classes).toMatchObject([
      { name: "Wire Walk", count: 16, students: 15, others: 0, guardians: 21, newLists: 2 },
      { name: "Acro Pairs", count: 15, accepted: 13, unreachable: 1, guardians: 0, newLists: 0 },
    ]);
    expect(staff).toEqual({ key: "staff", count: 1, accepted: 1, classes: null });
  });

  test("says what classes get in their section alone", () => {
    const [moved] = outlineOf(
      [counted("moved", "Hoops", 30)],
      true,
      new Map([["Hoops", { guardians: 9, newLists: 1 }]]),
    ).sections;
    expect(moved?.classes).toMatchObject([{ name: "Hoops", guardians: 0, newLists: 0 }]);
  });

  test("of nothing has no section", () => {
    expect(outlineOf([], false, new Map())).toEqual({ shown: 0, held: 0, sections: [] });
  });
});

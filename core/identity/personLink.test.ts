import { describe, expect, test } from "vitest";
import type { Person } from "../facts/factIndex";
import {
  fitsGuardian,
  fitsStudent,
  isSettled,
  markOf,
  markWithNames,
  type PersonLink,
  type PersonMark,
} from "./personLink";
import type { RowRecord } from "../sheet/rowRecord";

const person = (overrides: Partial<Person>): Person => ({
  id: "g-1",
  role: "guardian",
  given: "Halim",
  family: "Brandt",
  number: "",
  level: "",
  site: "",
  cohorts: new Set(),
  addresses: new Set(["halim@lettr.example"]),
  ties: new Map([["s-1", "Father"]]),
  details: new Map(),
  ...overrides,
});
const mark = (overrides: Partial<PersonMark> = {}): PersonMark => ({
  ...markOf(person({})),
  ...overrides,
});

describe("a guardian's mark", () => {
  test.each<[string, { given: string; family: string }, string, string | undefined, number]>([
    [
      "by address and student",
      { given: "Halim", family: "Brandt" },
      "s-1",
      "halim@lettr.example",
      3,
    ],
    ["by address", { given: "BRANDT", family: "Halim" }, "s-9", "halim@lettr.example", 2],
    ["by student", { given: "Halim", family: "Brandt" }, "s-1", undefined, 1],
    [
      "by the name alone not",
      { given: "Halim", family: "Brandt" },
      "s-9",
      "other@lettr.example",
      0,
    ],
    ["another's name not", { given: "Petra", family: "Brandt" }, "s-1", "halim@lettr.example", 0],
  ])("fits %s", (_what, name, student, address, wanted) =>
    expect(fitsGuardian({ name, student, address }, mark())).toBe(wanted),
  );
});

describe("a student's mark", () => {
  const student = markOf(
    person({
      id: "s-1",
      role: "student",
      given: "Ida",
      family: "Brandt",
      number: "CW-1",
      cohorts: new Set(["class:wire walk"]),
      ties: new Map(),
    }),
  );
  const row = (overrides: Partial<RowRecord>) => ({
    number: "",
    name: { given: "Ida", family: "Brandt" },
    classes: [],
    teams: [],
    ...overrides,
  });
  test.each<[string, Partial<RowRecord>, boolean]>([
    ["by number, whatever the name", { number: "cw 1", name: { given: "I", family: "B" } }, true],
    ["not by another number", { number: "CW-2" }, false],
    ["by name", {}, true],
    ["by name and class", { classes: ["Wire Walk"] }, true],
    ["not in another class", { classes: ["Acro Pairs"] }, false],
    ["not by another name", { name: { given: "Una", family: "Brandt" } }, false],
  ])("fits %s", (_what, given, wanted) => expect(fitsStudent(row(given), student)).toBe(wanted));
});

describe("what was said before", () => {
  const right = mark({ names: ["ana quist"], students: ["s-2"], addresses: ["ana@lettr.example"] });
  const same: PersonLink = { says: "same", left: mark(), right };

  test("gives somebody who was joined all their names", () => {
    expect(markWithNames(person({}), [same]).names).toEqual(["brandt halim", "ana quist"]);
    expect(markWithNames(person({}), [{ ...same, says: "other" }]).names).toEqual(["brandt halim"]);
    expect(
      markWithNames(person({ addresses: new Set(), ties: new Map([["s-9", ""]]) }), [same]).names,
    ).toEqual(["brandt halim"]);
  });

  test("settles a pair, whichever stands first", () => {
    const is =
      (names: string) =>
      (personMark: PersonMark): boolean =>
        personMark.names.includes(names);
    expect(isSettled([same], is("brandt halim"), is("ana quist"))).toBe(true);
    expect(isSettled([same], is("ana quist"), is("brandt halim"))).toBe(true);
    expect(isSettled([same], is("ana quist"), is("una holm"))).toBe(false);
  });
});

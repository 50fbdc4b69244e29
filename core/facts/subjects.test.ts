import { expect, test } from "vitest";
import { hasAccount, isGuardian, isStudent, placeKind, staffId } from "./subjects";

test("a subject says what it is about", () => {
  expect(hasAccount(staffId("7f"))).toBe(true);
  expect(hasAccount("t-7f")).toBe(false);
  expect([isStudent("s-1"), isStudent("g-1"), isGuardian("g-1"), isGuardian("s-1")]).toEqual([
    true,
    false,
    true,
    false,
  ]);
});

test.each([
  ["class:trapeze two", "class"],
  ["committee:rigging", "committee"],
  ["site:mill loft", "site"],
  ["level:4", "level"],
  ["house", undefined],
  ["recipe:1", undefined],
  ["class", undefined],
])("the key %s is of a %s", (key, kind) => {
  expect(placeKind(key)).toBe(kind);
});

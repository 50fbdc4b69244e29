import { expect, test } from "vitest";
import type { ReadingPlan } from "@amigo/core/sheet/table";
import { withMeaning } from "./withMeaning";

const column = (meaning: ReadingPlan["columns"][number]["meaning"], slot = 0) => ({
  title: meaning,
  meaning,
  slot,
});
const plan: ReadingPlan = {
  sheet: "Roster",
  headerRow: 0,
  columns: [
    column("student.name"),
    column("guardian.address", 1),
    column("guardian.address", 2),
    column("unread"),
  ],
};
const meanings = ({ columns }: ReadingPlan): string[] =>
  columns.map(({ meaning, slot }) => (slot === 0 ? meaning : `${meaning} ${slot}`));

test("a column gets another meaning; the one that had it is no longer read", () => {
  expect(meanings(withMeaning(plan, 3, "guardian.address", 1))).toEqual([
    "student.name",
    "unread",
    "guardian.address 2",
    "guardian.address 1",
  ]);
});

test("the same meaning in another place is another one", () => {
  expect(meanings(withMeaning(plan, 3, "guardian.address", 3))).toEqual([
    "student.name",
    "guardian.address 1",
    "guardian.address 2",
    "guardian.address 3",
  ]);
});

test("any number of columns can be left unread", () => {
  expect(meanings(withMeaning(plan, 0, "unread", 0))).toEqual([
    "unread",
    "guardian.address 1",
    "guardian.address 2",
    "unread",
  ]);
});

test("the rest of the plan, and the plan that was given, stay as they were", () => {
  const before = structuredClone(plan);
  expect(withMeaning(plan, 1, "classes", 0)).toMatchObject({ sheet: "Roster", headerRow: 0 });
  expect(plan).toEqual(before);
});

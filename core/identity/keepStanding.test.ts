import { expect, test } from "vitest";
import { factKey, type Fact } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import type { Origin } from "../facts/origin";
import { keepStanding } from "./keepStanding";

const origin: Origin = {
  from: "row",
  source: "roster",
  reading: "r1",
  sheet: "Roster",
  row: 2,
  meaning: "student.name",
  slot: 0,
};
const facts = (...list: Omit<Fact, "origin">[]): Map<string, Fact> =>
  new Map(list.map((fact) => [factKey(fact as Fact), { ...fact, origin } as Fact]));

const STANDING = facts(
  { subject: "s-1", kind: "student", ref: "", value: "" },
  { subject: "s-1", kind: "enrolment", ref: "class:wire walk", value: "" },
  { subject: "s-1", kind: "enrolment", ref: "team:parade", value: "" },
  { subject: "g-1", kind: "guardian", ref: "", value: "" },
  { subject: "g-1", kind: "tie", ref: "s-1", value: "mother" },
  { subject: "g-1", kind: "address", ref: "old@oakmail.example", value: "" },
);

/** What stands after a source that only adds has told some facts. */
function after(...told: Omit<Fact, "origin">[]): string[] {
  const now = facts(...told);
  keepStanding(
    now,
    [{ source: "form", reading: "r2", whole: false, records: [] }],
    indexFacts(STANDING),
    STANDING,
    new Set(),
  );
  return [...now.keys()].sort();
}

test("a source that only adds takes nothing from those whom it doesn't mention", () => {
  expect(after()).toEqual([...STANDING.keys()].sort());
});

test("a new address takes the place of the old one", () => {
  const keys = after({ subject: "g-1", kind: "address", ref: "new@oakmail.example", value: "" });
  expect(keys).toContain("g-1|address|new@oakmail.example");
  expect(keys).not.toContain("g-1|address|old@oakmail.example");
});

test("a new class takes the place of the old one, and leaves the team", () => {
  const keys = after({ subject: "s-1", kind: "enrolment", ref: "class:trapeze", value: "" });
  expect(keys).toContain("s-1|enrolment|class:trapeze");
  expect(keys).not.toContain("s-1|enrolment|class:wire walk");
  expect(keys).toContain("s-1|enrolment|team:parade");
});

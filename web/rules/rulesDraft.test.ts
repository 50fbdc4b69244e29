import { describe, expect, test } from "vitest";
import type { Making } from "@amigo/contract/edits";
import { RULE_IDS } from "@amigo/core/posting/rules/rule";
import { ALL_RULES } from "@amigo/core/posting/rules/allRules";
import { kindOfText } from "./kindOfText";
import { boundIn, settledDraft, withPreset, type RulesDraft } from "./rulesDraft";

const making: Making = {
  staff: [],
  self: "",
  recipes: [],
  presets: [
    {
      id: "quiet",
      name: "Quiet",
      what: "",
      own: false,
      rules: { writers: "leads", replies: "nobody" },
    },
    { id: "open", name: "Open", what: "", own: true, rules: { writers: "members" } },
  ],
  bounds: { "guardians writers": { allowed: "leads", usual: "leads" } },
  invariantsOff: [],
  insideDomains: ["copperwheel.example"],
  listDomain: "lists.copperwheel.example",
  everything: true,
};
const draft: RulesDraft = {
  preset: "quiet",
  leads: "",
  helpers: "",
  adding: "quietly",
  own: { replies: "leads", findable: "staff" },
};

describe("the rules of a list that is being changed", () => {
  test("are its own, else its preset's, else what is usual for its kind", () => {
    const rules = settledDraft(draft, making, "students");
    expect(rules.replies).toBe("leads");
    expect(rules.writers).toBe("leads");
    expect(rules.leaving).toBe(ALL_RULES.leaving.usual);
  });

  test("have a value for every rule, whatever the preset is", () => {
    for (const preset of ["quiet", "open", "gone"])
      expect(Object.keys(settledDraft({ preset, own: {} }, making, "other")).sort()).toEqual(
        [...RULE_IDS].sort(),
      );
  });

  test("take the house's usual value where it has one for the kind", () => {
    const ofGuardians = settledDraft({ preset: "", own: {} }, making, "guardians");
    expect(ofGuardians.writers).toBe("leads");
    expect(boundIn(making, "guardians", "writers").allowed).toBe("leads");
  });

  test("may be anything that there is where the house has no limit", () => {
    const { allowed, usual } = boundIn(making, "staff", "writers");
    expect(allowed.split("|")).toEqual(ALL_RULES.writers.values.map(({ value }) => value));
    expect(usual).toBe(ALL_RULES.writers.usual);
    expect(boundIn(making, "staff", "attachmentSize").allowed).toMatch(/^\d+$/);
  });

  test("lose with a new preset what it settles, and nothing else", () => {
    const changed = withPreset(
      { ...draft, own: { ...draft.own, writers: "anybody" } },
      "open",
      making,
    );
    expect(changed.preset).toBe("open");
    expect(changed.own).toEqual({ replies: "leads", findable: "staff" });
    expect(changed.adding).toBe("quietly");
  });

  test("stay as they are where the preset is gone", () => {
    expect(withPreset(draft, "gone", making).own).toEqual(draft.own);
  });
});

test.each([
  ["guardians of students", "guardians"],
  ['guardians of students in "Trapeze Two" + coaches of "Trapeze Two"', "guardians"],
  ["students", "students"],
  ["coaches", "staff"],
  ["students + guardians of students", "other"],
  ["  Guardians of stud", "guardians"],
  ["Coaches of", "staff"],
  ["leads o", "staff"],
  ["stu", "other"],
  ["", "other"],
])("an audience that reads %j so far is of %s", (typed, kind) => {
  expect(kindOfText(typed)).toBe(kind);
});

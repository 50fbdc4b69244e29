import { describe, expect, test } from "vitest";
import { PRESETS } from "./presets";
import { ruleSentences } from "./ruleSentences";
import { verdict, type Proof, type Sender } from "./verdict";

const rules = PRESETS["announcement-only"].rules;
const sender = (own: Partial<Sender>): Sender => ({ name: "Una Holm", isCoordinator: false, listRole: "none", isMember: false, ...own });

describe("announcement-only", () => {
  const cases: [string, Partial<Sender>, Proof, string][] = [
    ["a coordinator signed in", { isCoordinator: true }, "signed-in", "goes out"],
    ["a lead signed in", { listRole: "lead" }, "signed-in", "goes out"],
    ["a helper signed in", { listRole: "helper" }, "signed-in", "goes out"],
    ["a member signed in", { isMember: true }, "signed-in", "returned"],
    ["a stranger", {}, "claimed", "returned"],
    ["somebody who claims to be a coordinator", { isCoordinator: true }, "claimed", "returned"],
    ["somebody who claims to be a lead", { listRole: "lead" }, "claimed", "returned"],
  ];
  test.each(cases)("mail of %s", (_who, own, proof, outcome) => {
    const answer = verdict(sender(own), proof, rules);
    expect(answer.outcome).toBe(outcome);
    expect(answer.reasons[0]?.sentence).toMatch(/^Una Holm is /);
    expect(answer.reasons.length).toBeGreaterThanOrEqual(2);
  });

  test("what rests on a claim says so", () => {
    expect(verdict(sender({ listRole: "lead" }), "claimed", rules).reasons.map(({ rule }) => rule)).toEqual(["role", "who may write", "proof"]);
  });
});

test("rules read as sentences", () => {
  expect(ruleSentences(rules, { findable: "leads", outside: "any", leaving: "by oneself" }).map((parts) => parts.map(({ text }) => text).join(""))).toEqual([
    "Leads, helpers and coordinators may write; mail of anybody else is returned with a reason.",
    "Posts come from the writer by way of the list; replies go to the writer.",
    "Members do not see each other.",
    "Outside addresses are allowed.",
    "People join by the roster or by a coordinator and may leave by themselves.",
    "The list is found by its leads and coordinators.",
  ]);
});

describe("a list that takes no mail any more", () => {
  const lead = { name: "Una Holm", isCoordinator: true, listRole: "lead", isMember: true } as const;
  test.each([
    ["closed by hand", { seasonOver: undefined, now: undefined }, "This list is closed. Nobody gets mail from it any more."],
    ["of a season that is over", { seasonOver: "2025-26", now: undefined }, "The season 2025-26 is over, and this list was of that season. Nobody gets mail from it any more."],
    ["with another in its place", { seasonOver: "2025-26", now: { title: "Wire Walk, guardians", address: "wire@lists.copperwheel.example" } }, "The season 2025-26 is over, and this list was of that season. The list now is Wire Walk, guardians: wire@lists.copperwheel.example."],
  ])("%s returns even its lead's mail, and says why", (_what, closed, sentence) => {
    expect(verdict(lead, "signed-in", rules, closed)).toEqual({ outcome: "returned", reasons: [{ rule: "closed", sentence }] });
  });
});

test.each([
  [{ findable: "staff", outside: "none", leaving: "through a lead" } as const, ["Outside addresses are not allowed.", "People join by the roster or by a coordinator and leave through a lead.", "The list is found by everybody on the staff."]],
  [{ findable: "leads", outside: "any", leaving: "by oneself" } as const, ["Outside addresses are allowed.", "People join by the roster or by a coordinator and may leave by themselves.", "The list is found by its leads and coordinators."]],
])("a list's own rules %j read as sentences", (own, wanted) => {
  expect(ruleSentences(rules, own).map((parts) => parts.map(({ text }) => text).join(""))).toEqual(expect.arrayContaining(wanted));
});

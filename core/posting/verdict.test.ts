import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { say, sayParts } from "@amigo/language/say";
import {
  PROOFS,
  PLAIN_MESSAGE,
  type MailToJudge,
  type MessageToJudge,
  type Proof,
  type Sender,
} from "./mailToJudge";
import { PRESETS } from "./presets";
import { ruleSentences } from "./ruleSentences";
import { ALL_RULES, ruleFault as ruleFaultUnsaid, USUAL_RULES } from "./rules/allRules";
import { RULE_IDS, type RuleId, type Rules } from "./rules/rule";
import { sightOf as sightOfUnsaid, verdict as verdictUnsaid } from "./verdict";
import { spoken } from "../testing/spoken";

const ruleFault = spoken(ruleFaultUnsaid);

const verdict = spoken(verdictUnsaid);
const sightOf = spoken(sightOfUnsaid);

const rulesOf = (preset: string, overrides: Partial<Rules> = {}): Rules => ({
  ...USUAL_RULES,
  ...PRESETS[preset]?.rules,
  ...overrides,
});
const NOBODY: Sender = {
  name: "Una Holm",
  address: "una@lettr.example",
  isCoordinator: false,
  listRole: "none",
  isMember: false,
  isInside: false,
  isKnown: false,
};
const SENDERS: Record<string, Partial<Sender>> = {
  coordinator: { isCoordinator: true, isInside: true, isKnown: true },
  lead: { listRole: "lead", isInside: true, isKnown: true },
  helper: { listRole: "helper", isInside: true, isKnown: true },
  named: { address: "office@copperwheel.example", isInside: true },
  "member inside": { isMember: true, isInside: true, isKnown: true },
  "member outside": { isMember: true, isKnown: true },
  "staff, not on it": { isInside: true, isKnown: true },
  stranger: {},
};
const judge = (rules: Rules, who: string, proof: Proof, message: Partial<MessageToJudge> = {}) =>
  verdict(
    { sender: { ...NOBODY, ...SENDERS[who] }, proof, message: { ...PLAIN_MESSAGE, ...message } },
    { rules },
  );

/** What becomes of a proven mail of each sender, by preset: `out`, `leads` for out to the leads alone, or the outcome. */
const PROVEN: Record<string, Record<string, string>> = {
  "announcement-only": {
    coordinator: "out",
    lead: "out",
    helper: "out",
    named: "out",
    "member inside": "returned",
    "member outside": "returned",
    "staff, not on it": "returned",
    stranger: "returned",
  },
  "questions-welcome": {
    coordinator: "out",
    lead: "out",
    helper: "out",
    named: "out",
    "member inside": "leads",
    "member outside": "leads",
    "staff, not on it": "held",
    stranger: "held",
  },
  discussion: {
    coordinator: "out",
    lead: "out",
    helper: "out",
    named: "out",
    "member inside": "out",
    "member outside": "out",
    "staff, not on it": "held",
    stranger: "held",
  },
  "inside-only": {
    coordinator: "out",
    lead: "out",
    helper: "out",
    named: "out",
    "member inside": "out",
    "member outside": "out",
    "staff, not on it": "out",
    stranger: "returned",
  },
};

describe("every preset, every kind of sender, every proof", () => {
  for (const [preset, wanted] of Object.entries(PROVEN))
    for (const [who, outcome] of Object.entries(wanted))
      for (const proof of PROOFS) {
        test(`${preset}: ${who}, ${proof}`, () => {
          const answer = judge(rulesOf(preset, { also: "office@copperwheel.example" }), who, proof);
          const goesOut = outcome === "out" || outcome === "leads";
          expect(answer.outcome).toBe(goesOut ? (proof === "none" ? "held" : "goes out") : outcome);
          expect(answer.reaches).toBe(
            preset === "questions-welcome" && outcome !== "out" ? "leads" : "members",
          );
          expect(answer.askSender).toBe(
            goesOut && proof === "none" && SENDERS[who]?.isKnown === true,
          );
          expect(answer.reasons[0]?.sentence).toMatch(/^Una Holm is /);
          for (const { rule } of answer.reasons)
            expect(rule === "sender" || rule === "proof" || rule in ALL_RULES).toBe(true);
          expect(answer.reasons.some(({ rule }) => rule === "proof")).toBe(goesOut);
        });
      }
  test("leaves none of the presets out", () => {
    expect(Object.keys(PROVEN).sort()).toEqual(Object.keys(PRESETS).sort());
  });
});

describe("what the rules say of a message", () => {
  const rules = rulesOf("discussion", {
    attachments: "pictures and documents",
    attachmentSize: "2",
    longest: "5",
    perDay: "3",
  });
  const MB = 1024 * 1024;
  test.each<[string, Partial<MessageToJudge>, RuleId | undefined, string]>([
    ["a plain one", {}, undefined, "goes out"],
    ["a picture", { attachments: [{ type: "image/png", size: MB }] }, undefined, "goes out"],
    [
      "a program",
      { attachments: [{ type: "application/x-msdownload", size: 10 }] },
      "attachments",
      "returned",
    ],
    [
      "a picture that can hold a script",
      { attachments: [{ type: "image/svg+xml", size: 10 }] },
      "attachments",
      "returned",
    ],
    [
      "a large attachment",
      { attachments: [{ type: "image/png", size: 2 * MB + 1 }] },
      "attachmentSize",
      "returned",
    ],
    ["a long one", { size: 5 * MB + 1 }, "longest", "returned"],
    ["the third of the day", { postsToday: 2 }, undefined, "goes out"],
    ["the fourth of the day", { postsToday: 3 }, "perDay", "held"],
  ])("%s", (_what, message, rule, outcome) => {
    const answer = judge(rules, "member outside", "dkim", message);
    expect(answer.outcome).toBe(outcome);
    if (rule !== undefined) expect(answer.reasons[answer.reasons.length - 1]?.rule).toBe(rule);
  });

  test("no attachments means none", () => {
    expect(
      judge(rulesOf("discussion", { attachments: "none" }), "lead", "signed-in", {
        attachments: [{ type: "text/plain", size: 1 }],
      }).outcome,
    ).toBe("returned");
  });
  test("who runs the list is told to wait, not held for themselves", () => {
    expect(judge(rules, "lead", "signed-in", { postsToday: 3 }).outcome).toBe("returned");
  });
  test.each<[Proof, string]>([
    ["signed-in", "goes out"],
    ["dkim", "held"],
    ["spf", "held"],
    ["none", "held"],
  ])("what looks unwanted, %s", (proof, outcome) => {
    expect(judge(rules, "lead", proof, { looksLikeSpam: true }).outcome).toBe(outcome);
  });
  test("a list whose replies go nowhere says so to who answers", () => {
    const { reasons } = judge(
      rulesOf("announcement-only", { replies: "nobody" }),
      "member outside",
      "none",
    );
    expect(reasons[reasons.length - 1]?.sentence).toBe(
      "This list is one-way: an answer to it reaches nobody. Other mail is returned with a reason.",
    );
  });
});

describe("properties", () => {
  const value = (id: RuleId) => {
    const { values, usual } = ALL_RULES[id];
    return values.length === 0
      ? fc.constant(usual)
      : fc.constantFrom(...values.map((ruleChoice) => ruleChoice.value));
  };
  const anyRules = fc.record(
    Object.fromEntries(RULE_IDS.map((id) => [id, value(id)])),
  ) as unknown as fc.Arbitrary<Rules>;
  const anySender = fc.record({
    name: fc.string(),
    address: fc.constantFrom("una@lettr.example", "t@copperwheel.example"),
    isCoordinator: fc.boolean(),
    listRole: fc.constantFrom("lead" as const, "helper" as const, "none" as const),
    isMember: fc.boolean(),
    isInside: fc.boolean(),
    isKnown: fc.boolean(),
  });
  const anyMessage = fc.record({
    size: fc.nat(40_000_000),
    attachments: fc.array(
      fc.record({
        type: fc.constantFrom("image/png", "application/zip"),
        size: fc.nat(30_000_000),
      }),
      { maxLength: 3 },
    ),
    postsToday: fc.nat(30),
    looksLikeSpam: fc.boolean(),
  });

  test("nothing goes out that nothing proves, and what goes out has its reasons", () => {
    fc.assert(
      fc.property(
        anyRules,
        anySender,
        anyMessage,
        fc.constantFrom(...PROOFS),
        (rules, sender, message, proof) => {
          const mail: MailToJudge = { sender, proof, message };
          const answer = verdict(mail, { rules });
          if (proof === "none") expect(answer.outcome).not.toBe("goes out");
          if (answer.askSender) expect(answer.outcome).toBe("held");
          expect(answer.reasons.length).toBeGreaterThanOrEqual(2);
          expect(verdict(mail, { rules })).toEqual(answer);
        },
      ),
    );
  });

  test("a sender who is more is never worse off: a lead's mail goes out wherever a member's does", () => {
    fc.assert(
      fc.property(anyRules, anySender, fc.constantFrom(...PROOFS), (rules, sender, proof) => {
        const of = (overrides: Partial<Sender>) =>
          verdict({ sender: { ...sender, ...overrides }, proof, message: PLAIN_MESSAGE }, { rules })
            .outcome;
        if (of({ isCoordinator: false, listRole: "none", isMember: true }) === "goes out")
          expect(of({ listRole: "lead" })).toBe("goes out");
      }),
    );
  });

  test("somebody who sees nothing of a list finds, lists and reads none of it", () => {
    fc.assert(
      fc.property(anyRules, (rules) => {
        const stranger = sightOf(NOBODY, false, rules);
        expect([stranger.finds, stranger.seesMembers, stranger.readsArchive]).toEqual([
          false,
          false,
          false,
        ]);
        const lead = sightOf({ ...NOBODY, listRole: "lead" }, true, rules);
        expect([lead.finds, lead.seesMembers, lead.readsArchive]).toEqual([
          true,
          true,
          rules.archive !== "none",
        ]);
      }),
    );
  });
});

test.each<[Partial<Rules>, Partial<Sender>, boolean, [boolean, boolean, boolean]]>([
  [
    { findable: "leads", roster: "leads", archive: "members" },
    { isMember: true },
    false,
    [false, false, true],
  ],
  [
    { findable: "members", roster: "members", seen: "yes", archive: "members" },
    { isMember: true },
    false,
    [true, true, true],
  ],
  [
    { findable: "members", roster: "members", seen: "no", archive: "leads" },
    { isMember: true },
    false,
    [true, false, false],
  ],
  [
    { findable: "staff", roster: "staff", archive: "inside" },
    { isInside: true },
    true,
    [true, true, true],
  ],
  [
    { findable: "inside", roster: "leads", archive: "inside" },
    { isInside: true },
    false,
    [true, false, true],
  ],
  [
    { findable: "inside", roster: "leads", archive: "none" },
    { listRole: "helper" },
    true,
    [true, true, false],
  ],
])("by %j somebody who is %j (staff: %j) sees %j", (rules, given, isStaff, wanted) => {
  const { finds, seesMembers, readsArchive } = sightOf({ ...NOBODY, ...given }, isStaff, {
    ...USUAL_RULES,
    ...rules,
  });
  expect([finds, seesMembers, readsArchive]).toEqual(wanted);
});

describe("rules read as sentences", () => {
  const read = (rules: Rules): string[] => ruleSentences(rules).map(say);
  test("of announcements to guardians", () => {
    expect(
      read(
        rulesOf("announcement-only", { outside: "guardians", also: "office@copperwheel.example" }),
      ),
    ).toEqual([
      "Leads and helpers may write, and so may office@copperwheel.example; mail from anyone else is returned with a reason.",
      "Replies go to the leads. Posts come from the writer by way of the list.",
      "Members do not see each other. The member list is visible to its leads.",
      "Outside addresses: guardians only. When added by hand, they are added at once.",
      "People join by the roster or a lead and may leave by themselves.",
      "The list can be found by its leads. Its archive can be read by its members.",
      "A post may carry any attachments, each up to 10 MB, and have up to 20 MB. At most 20 posts a day.",
      "The shelf takes any files but programs.",
      "Members who haven't chosen get every message.",
    ]);
  });
  test("of questions", () => {
    expect(read(rulesOf("questions-welcome"))).toContain("Posts by members go to only the leads.");
  });
  test("every rule but the texts is told in some sentence", () => {
    const told = new Set(
      [...Object.keys(PRESETS)].flatMap((preset) =>
        ruleSentences(rulesOf(preset, { also: "a@b.example" })).flatMap((sentence) =>
          sayParts(sentence).map(({ place }) => place),
        ),
      ),
    );
    expect(RULE_IDS.filter((id) => !told.has(id))).toEqual(["welcome", "footer"]);
  });
});

describe("a list that takes no mail any more", () => {
  const lead = { ...NOBODY, isCoordinator: true, listRole: "lead", isMember: true } as const;
  test.each([
    [
      "closed by hand",
      { seasonOver: undefined, now: undefined },
      "This list is closed. Nobody gets mail from it any more.",
    ],
    [
      "of a season that is over",
      { seasonOver: "2025-26", now: undefined },
      "The season 2025-26 is over, and this list was of that season. Nobody gets mail from it any more.",
    ],
    [
      "with another in its place",
      {
        seasonOver: "2025-26",
        now: { title: "Wire Walk, guardians", address: "wire@lists.copperwheel.example" },
      },
      "The season 2025-26 is over, and this list was of that season. The list now is Wire Walk, guardians: wire@lists.copperwheel.example.",
    ],
  ])("%s returns even its lead's mail, and says why", (_what, closed, sentence) => {
    expect(
      verdict(
        { sender: lead, proof: "signed-in", message: PLAIN_MESSAGE },
        { rules: rulesOf("discussion"), closed },
      ),
    ).toEqual({
      outcome: "returned",
      reaches: "members",
      askSender: false,
      reasons: [{ rule: "closed", sentence }],
    });
  });
});

describe("what a rule may hold", () => {
  test.each<[RuleId, string]>([
    ["writers", "members"],
    ["longest", "25"],
    ["perDay", "1"],
    ["also", "a@b.example, c@d.example"],
    ["also", ""],
    ["footer", "Mill Lane\nBig Barn"],
  ])("%s: %j will do", (id, value) => {
    expect(ruleFault(id, value)).toBeUndefined();
  });
  test.each<[RuleId, string, RegExp]>([
    ["writers", "everybody", /can't be chosen/],
    ["longest", "26", /from 1 to 25/],
    ["longest", "0", /from 1/],
    ["perDay", "1e3", /whole number/],
    ["also", "not an address", /"not" is not an address/],
    ["also", "a@b.example\r\nBcc: x@y.example", /commas/],
    ["footer", "x".repeat(1001), /1000 characters/],
  ])("%s: %j will not", (id, value, sentence) => {
    expect(ruleFault(id, value)).toMatch(sentence);
  });
});

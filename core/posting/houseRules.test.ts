import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { parseAudience } from "../audience/parseAudience";
import {
  boundKey,
  boundOf,
  BOUND_RULES,
  boundSentence as boundSentenceUnsaid,
  isWithin,
  settleRules as settleRulesUnsaid,
  type Bound,
  type Exemption,
} from "./houseRules";
import {
  ALL_INVARIANTS,
  brokenInvariants as brokenInvariantsUnsaid,
} from "./invariants/allInvariants";
import type { ListToCheck } from "./invariants/invariant";
import { listKind } from "./listKind";
import { PRESETS, presetOf } from "./presets";
import { ALL_RULES, USUAL_RULES } from "./rules/allRules";
import { LIST_KINDS, type ListKind, type RuleId, type Rules } from "./rules/rule";
import { spoken } from "../testing/spoken";

const boundSentence = spoken(boundSentenceUnsaid);
const brokenInvariants = spoken(brokenInvariantsUnsaid);
const settleRules = spoken(settleRulesUnsaid);

const NONE = new Map<string, never>();
const ANNOUNCE = presetOf("announcement-only", NONE);
const settle = (
  overrides: Record<string, string>,
  {
    kind = "guardians" as ListKind,
    recipe = {} as Partial<Rules>,
    house = new Map<string, Bound>(),
    exemptions = new Map<string, Exemption>(),
  } = {},
) =>
  settleRules({
    kind,
    own: new Map(Object.entries(overrides)),
    recipe,
    preset: ANNOUNCE,
    house,
    exemptions,
  });

describe("the rules of a list as they hold", () => {
  test("the list goes before its recipe, that before the preset, that before the house", () => {
    const house = new Map([[boundKey("guardians", "longest"), { allowed: "25", usual: "7" }]]);
    const { rules, refused } = settle(
      { replies: "writer" },
      { recipe: { replies: "nobody", seen: "yes" }, house },
    );
    expect([rules.replies, rules.seen, rules.writers, rules.longest, rules.outside]).toEqual([
      "writer",
      "yes",
      "leads and helpers",
      "7",
      "guardians",
    ]);
    expect(refused).toEqual([]);
  });

  test("what the house does not allow is as the house has it, and is told", () => {
    const { rules, refused } = settle({ outside: "any" }, { kind: "students" });
    expect(rules.outside).toBe("none");
    expect(refused.map(({ rule, chosen }) => `${rule} ${chosen}`)).toEqual(["outside any"]);
    expect(
      boundSentence("students", "outside", refused[0]?.bound ?? { allowed: "", usual: "" }),
    ).toBe('House rule: for lists of students, outside addresses: "none".');
  });

  test("a number that is too large becomes the largest", () => {
    const house = new Map([[boundKey("guardians", "longest"), { allowed: "5", usual: "3" }]]);
    expect(settle({ longest: "20" }, { house }).rules.longest).toBe("5");
    expect(boundSentence("guardians", "longest", { allowed: "5", usual: "3" })).toBe(
      "House rule: for lists of guardians, longest message: at most 5 MB.",
    );
  });

  test("what somebody has allowed this list is allowed, and nothing beyond it", () => {
    const exemptions = new Map([
      ["outside", { allowed: "guardians", until: "", by: "Juno Abara" }],
    ]);
    expect(settle({ outside: "guardians" }, { kind: "other", exemptions })).toMatchObject({
      rules: { outside: "guardians" },
      refused: [],
    });
    expect(settle({ outside: "any" }, { kind: "other", exemptions }).rules.outside).toBe("none");
  });

  test("whatever is chosen, what holds is within the house's bounds", () => {
    const anyBound = (rule: RuleId) => {
      const { values, form, most = 1 } = ALL_RULES[rule];
      if (form === "number")
        return fc
          .integer({ min: 1, max: most })
          .map((largest): Bound => ({ allowed: String(largest), usual: "1" }));
      return fc
        .subarray(
          values.map(({ value }) => value),
          { minLength: 1 },
        )
        .map((allowed): Bound => ({ allowed: allowed.join("|"), usual: allowed[0] ?? "" }));
    };
    fc.assert(
      fc.property(
        fc.constantFrom(...LIST_KINDS),
        fc.constantFrom(...BOUND_RULES).chain((rule) =>
          fc.record({
            rule: fc.constant(rule),
            bound: anyBound(rule),
            chosen:
              ALL_RULES[rule].form === "number"
                ? fc.integer({ min: 1, max: 200 }).map(String)
                : fc.constantFrom(...ALL_RULES[rule].values.map(({ value }) => value)),
          }),
        ),
        (kind, { rule, bound, chosen }) => {
          const { rules, refused } = settle(
            { [rule]: chosen },
            { kind, house: new Map([[boundKey(kind, rule), bound]]) },
          );
          expect(isWithin(rule, rules[rule], bound)).toBe(true);
          expect(refused.some((candidate) => candidate.rule === rule)).toBe(
            !isWithin(rule, chosen, bound),
          );
        },
      ),
    );
  });

  test.each(["constructor", "toString", "nothing"])(
    "an unknown preset, %s, is the strictest",
    (id) => {
      expect(presetOf(id, NONE).rules).toEqual(ANNOUNCE.rules);
    },
  );

  test("what every house starts with allows what it has as usual", () => {
    for (const kind of LIST_KINDS)
      for (const rule of BOUND_RULES) {
        const bound = boundOf(kind, rule, NONE);
        expect(isWithin(rule, bound.usual, bound), `${kind} ${rule}`).toBe(true);
      }
  });
});

describe("what must hold between rules", () => {
  const list = (overrides: Partial<Rules> = {}, more: Partial<ListToCheck> = {}): ListToCheck => ({
    kind: "guardians",
    rules: { ...USUAL_RULES, ...ANNOUNCE.rules, outside: "guardians", ...overrides },
    hasLead: true,
    insideDomains: ["copperwheel.example"],
    ...more,
  });
  const broken = (listToCheck: ListToCheck, off: readonly string[] = []): string[] =>
    brokenInvariants(listToCheck, new Set(off)).map(({ invariant }) => invariant.id);

  test("nothing is wrong with announcements to guardians", () => {
    expect(broken(list())).toEqual([]);
  });
  test.each<[string, ListToCheck, string[]]>([
    ["members who see each other beside outside ones", list({ seen: "yes" }), ["outside-unseen"]],
    ["members who look up outside ones", list({ roster: "members" }), ["outside-unseen"]],
    [
      "an outside writer to students",
      list({ outside: "none", also: "coach@lettr.example" }, { kind: "students" }),
      ["students-no-outside"],
    ],
    [
      "outside members who write to students",
      list({ writers: "members", outside: "any", membersPosts: "leads" }, { kind: "students" }),
      ["students-no-outside"],
    ],
    [
      "anyone inside, and outside members, who write to students",
      list({ writers: "inside", outside: "any" }, { kind: "students" }),
      ["students-no-outside"],
    ],
    [
      "an archive for anyone inside with outside members",
      list({ archive: "inside" }),
      ["archive-outside"],
    ],
    ["no lead who can sign in", list({}, { hasLead: false }), ["lead-signs-in"]],
    [
      "announcements whose replies go to a list that takes none",
      list({ replies: "list" }),
      ["replies-go-somewhere"],
    ],
    [
      "announcements whose answers vanish",
      list({ replies: "nobody", other: "dropped" }),
      ["replies-go-somewhere"],
    ],
  ])("%s", (_what, given, wanted) => {
    expect(broken(given)).toEqual(wanted);
    for (const { sentence } of brokenInvariants(given, new Set()))
      expect(sentence).toMatch(/[:,] .*\.$/);
  });
  test.each<[string, ListToCheck]>([
    [
      "an inside writer to students",
      list({ outside: "none", also: "office@copperwheel.example" }, { kind: "students" }),
    ],
    [
      "members who write to students, all of them inside",
      list({ outside: "none", writers: "members" }, { kind: "students" }),
    ],
    ["announcements whose replies go nowhere and say so", list({ replies: "nobody" })],
    ["members who see each other, all of them inside", list({ outside: "none", seen: "yes" })],
  ])("%s is well", (_what, given) => {
    expect(broken(given)).toEqual([]);
  });

  test("the house may do without the first, and without no other", () => {
    expect(broken(list({ seen: "yes" }), ["outside-unseen"])).toEqual([]);
    expect(
      broken(
        list({ archive: "inside" }),
        ALL_INVARIANTS.map(({ id }) => id),
      ),
    ).toEqual(["archive-outside"]);
  });

  test("every preset keeps to them for lists without outside addresses", () => {
    for (const [id, preset] of Object.entries(PRESETS))
      for (const kind of LIST_KINDS)
        expect(
          brokenInvariants(
            {
              kind,
              rules: { ...USUAL_RULES, outside: "none", ...preset.rules },
              hasLead: true,
              insideDomains: ["copperwheel.example"],
            },
            new Set(),
          ),
          `${id} ${kind}`,
        ).toEqual([]);
  });
});

test.each<[string, ListKind]>([
  ["guardians of students in this class", "guardians"],
  ['students in "Wire Walk" + students in "Trapeze Two"', "students"],
  ["coaches of this class", "staff"],
  ["staff", "staff"],
  ['students in "Wire Walk" + guardians of students in "Wire Walk"', "other"],
  ['guardians of students in this class except "Una Holm"', "guardians"],
  ['"Una Holm"', "other"],
  ["guardians of students in this class + coaches of this class", "guardians"],
])("%s is a list of %s", (text, kind) => {
  const parsed = parseAudience(text);
  expect(parsed.ok && listKind(parsed.audience)).toBe(kind);
});

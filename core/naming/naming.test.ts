import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { say } from "@amigo/language/say";
import { fold } from "../text/fold";
import { faultsOfName, nameFaultSentence as nameFaultSentenceUnsaid } from "./nameFault";
import { nameLists, type NameWish, type NamingRules } from "./nameLists";
import { fillPattern, readPattern as readPatternUnsaid } from "./pattern";
import { proposeShortForm, proposeShortForms, proposeSiteCode } from "./shortForm";
import { toAscii } from "./toAscii";
import { spoken } from "../testing/spoken";

const nameFaultSentence = spoken(nameFaultSentenceUnsaid);
const readPattern = spoken(readPatternUnsaid);

const PARTS = {
  site: "ML",
  of: "Trapeze Two",
  audience: "Guardians",
  season: "2026-27",
  lead: "Hale, Sunniva",
};
const RULES: NamingRules = {
  shortForms: new Map(),
  longest: 30,
  reserved: new Set(["office"]),
  heldBy: () => undefined,
};
const SHORT = new Map([
  [fold("Guardians"), "parents"],
  [fold("Trapeze Two"), "trapeze2"],
]);

function fill(pattern: string, parts: Partial<typeof PARTS> = {}, shortForms = SHORT): string {
  const read = readPattern(pattern);
  return read.ok
    ? fillPattern(read.pieces, { ...PARTS, ...parts }, shortForms)
    : say(read.fault.sentence);
}

describe("patterns", () => {
  test.each([
    ["{site}-{class}-{audience}-{season}", {}, "ml-trapeze2-parents-2627"],
    ["{class}-{season}", { of: "Stilts & Clowning" }, "stiltsclowning-2627"],
    ["{site}-{class}", { site: "" }, "trapeze2"],
    ["Friends of {class}!", { of: "Łódź Ørsted" }, "friends-of-lodzorsted"],
    ["{class}", { of: "Juggling for the Very Young and Old One" }, "jugglingvyo1"],
    ["{class:squashed}", {}, "trapezetwo"],
    ["{class:first 4}.{season:squashed}", {}, "trap.202627"],
    ["{class:initials}", {}, "t2"],
    ["{lead}-{audience:first 3}", {}, "hale-gua"],
    ["{lead}", { lead: "Teo Bramwell" }, "bramwell"],
    ["{class}", { of: "Жонглёры" }, "zhonglery"],
    ["{class}", { of: "Ακροβάτες" }, "akrovates"],
    ["{class}", { of: "٣" }, "3"],
    ["--{class}..-", {}, "trapeze2"],
  ])("%s", (pattern, parts, name) => {
    expect(fill(pattern, parts)).toBe(name);
  });

  test.each([
    ["{moon}", 0, undefined],
    ["x-{clas}", 2, "{class}"],
    ["{class:loud}", 0, "{class:short}"],
    ["{class", 0, undefined],
    ["a}b", 1, undefined],
  ])("%s is refused at %i", (pattern, at, proposal) => {
    expect(readPattern(pattern)).toMatchObject({
      ok: false,
      fault: { at, proposal, sentence: expect.stringMatching(/\.$/) },
    });
  });
});

describe("faults of names", () => {
  test.each([
    ["", "empty"],
    ["Über", "form"],
    ["a..b", "form"],
    ["-a", "form"],
    ["a".repeat(31), "long"],
    ["a".repeat(55), "too-long"],
    ["postmaster", "reserved"],
    ["office", "reserved"],
    ["wire-request", "reserved"],
  ])("%j is %s", (name, fault) => {
    expect(faultsOfName(name, RULES)).toContain(fault);
    expect(nameFaultSentence(faultsOfName(name, RULES)[0] ?? "form", name, RULES)).toMatch(/\.$/);
  });

  test("a good name has none", () => {
    expect(faultsOfName("ml-trapeze2-parents-2627", RULES)).toEqual([]);
  });
});

describe("naming many lists", () => {
  const wish = (key: string, of: string, pattern = "{class}-{season}"): NameWish => ({
    key,
    pattern,
    parts: { ...PARTS, of },
  });
  const named = (wishes: NameWish[], rules: Partial<NamingRules> = {}) =>
    nameLists(wishes, { ...RULES, ...rules }).map(({ key, name, faults, proposal }) => [
      key,
      name,
      faults.join(),
      proposal,
    ]);

  test("what is ambiguous, taken, reserved or too long is told with a way out", () => {
    expect(
      named([
        wish("1", "Wire Walk", "{class:initials}"),
        wish("2", "Water Wheel", "{class:initials}"),
      ]),
    ).toEqual([
      ["1", "ww", "ambiguous", "wirewalk"],
      ["2", "ww", "ambiguous", "waterwheel"],
    ]);
    expect(
      named([wish("1", "Wire Walk")], {
        heldBy: (name) => (name === "wirewalk-2627" ? { key: "9", now: true } : undefined),
      }),
    ).toEqual([["1", "wirewalk-2627", "taken", "wirewalk-2627-2"]]);
    expect(named([wish("1", "Wire Walk")], { heldBy: () => ({ key: "1", now: true }) })).toEqual([
      ["1", "wirewalk-2627", "", "wirewalk-2627"],
    ]);
    expect(
      named([wish("1", "Wire Walk")], {
        heldBy: (name) => (name === "wirewalk-2627" ? { key: "9", now: false } : undefined),
      })[0]?.[2],
    ).toBe("recent");
    expect(named([wish("1", "Office", "{class}")])).toEqual([
      ["1", "office", "reserved", "office-list"],
    ]);
    expect(named([wish("1", "Stilts & Clowning", "mill-loft-evening-{class}-{season}")])).toEqual([
      ["1", "mill-loft-evening-stiltsclowning-2627", "long", "mill-loft-evening-stilt-2627"],
    ]);
    expect(named([wish("1", "Wire Walk", "{moon}")])).toEqual([["1", "", "empty", "wire-walk-2"]]);
  });

  const wishes = fc
    .uniqueArray(
      fc.record({
        key: fc.string({ minLength: 1, maxLength: 6 }),
        pattern: fc.constantFrom(
          "{site}-{class}-{season}",
          "{class:initials}",
          "{class:first 3}",
          "postmaster",
          "{lead}",
          "{nothing}",
          "---",
        ),
        of: fc.string({ unit: "grapheme", maxLength: 70 }),
      }),
      { maxLength: 12, selector: ({ key }) => key },
    )
    .map((all) =>
      all.map(({ key, pattern, of }): NameWish => ({ key, pattern, parts: { ...PARTS, of } })),
    );

  test("whatever the lists are called, proposals are valid, distinct and free, and do not hang on the order", () => {
    fc.assert(
      fc.property(wishes, fc.func(fc.boolean()), fc.integer(), (all, isHeld, turn) => {
        const rules: NamingRules = {
          ...RULES,
          heldBy: (name) =>
            !/-\d+$/.test(name) && isHeld(name) ? { key: "somebody else", now: true } : undefined,
        };
        const found = nameLists(all, rules);
        expect(found).toHaveLength(all.length);
        for (const { proposal, name, faults } of found) {
          expect(proposal).toMatch(/^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/);
          expect(proposal.length).toBeLessThanOrEqual(64);
          expect(rules.heldBy(proposal)).toBeUndefined();
          if (faults.length === 0) expect(proposal).toBe(name);
        }
        expect(new Set(found.map(({ proposal }) => proposal)).size).toBe(all.length);
        const moved = all
          .map((nameWish, index) => ({ own: nameWish, at: ((index + 1) * 7919 + turn) % 13 }))
          .sort((a, b) => a.at - b.at)
          .map(({ own: nameWish }) => nameWish);
        const byKey = (list: typeof found) =>
          new Map(list.map((namedList) => [namedList.key, namedList]));
        expect(byKey(nameLists(moved, rules))).toEqual(byKey(found));
      }),
    );
  });
});

describe("short forms", () => {
  test("they are proposed from the words", () => {
    expect(
      ["Tumbling Seeds", "Aerial Silks Start", "Hoops and Staff", "Juggling One"].map(
        proposeShortForm,
      ),
    ).toEqual(["tumblingseeds", "aerialss", "hoopsstaff", "juggling1"]);
    expect(["Big Barn", "Mill Loft", "Annexe"].map(proposeSiteCode)).toEqual(["BB", "ML", "AN"]);
  });

  test("many are proposed so that all stay distinct, in any order, and what the house chose stays", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.constantFrom(
              "Juggling the First Steps A",
              "Juggling the Furthest Steps A",
              "Wire",
              "wire!",
              "constructor",
              "toString",
            ),
            fc.string({ unit: "grapheme", minLength: 1, maxLength: 40 }),
          ),
        ),
        (names) => {
          const kept = new Map([["wire", "w"]]);
          const found = proposeShortForms(names, kept);
          expect(new Set([...found.values(), ...kept.values()]).size).toBe(found.size + 1);
          expect(found.has("wire")).toBe(false);
          expect(proposeShortForms([...names].reverse(), kept)).toEqual(found);
        },
      ),
    );
  });

  test("letters of any script become ASCII", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme" }), (text) => {
        expect(toAscii(fold(text))).toMatch(/^[a-z0-9 ]*$/);
      }),
    );
  });
});

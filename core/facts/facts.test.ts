import { said } from "@amigo/language/say";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { factKey, sameValue, type Fact } from "./fact";
import type { Origin } from "./origin";
import { FIRST_RECIPES } from "../lists/firstRecipes";
import { addToIndex, indexFacts, removeFromIndex } from "./indexFacts";
import { nameOf, type FactIndex } from "./factIndex";
import { packFacts, packOrigin, unpackFacts, unpackOrigin } from "./packFacts";

const origin: Origin = { from: "rule", rule: "student-address" };
const student = (id: string): Fact => ({
  subject: id,
  kind: "student",
  ref: "",
  value: "",
  origin,
});
const guardian = (id: string): Fact => ({
  subject: id,
  kind: "guardian",
  ref: "",
  value: "",
  origin,
});
const enrolment = (id: string, cohort: string): Fact => ({
  subject: id,
  kind: "enrolment",
  ref: cohort,
  value: "",
  origin,
});
const tie = (id: string, child: string): Fact => ({
  subject: id,
  kind: "tie",
  ref: child,
  value: "",
  origin,
});
const address = (id: string, at: string): Fact => ({
  subject: id,
  kind: "address",
  ref: at,
  value: "",
  origin,
});
const mapOf = (...facts: Fact[]) => new Map(facts.map((fact) => [factKey(fact), fact]));

const plain = (index: FactIndex) => ({
  people: [...index.people.values()]
    .map(({ cohorts, addresses, ties, ...person }) => ({
      ...person,
      cohorts: [...cohorts].sort(),
      addresses: [...addresses].sort(),
      ties: [...ties].sort(),
    }))
    .sort((a, b) => (a.id < b.id ? -1 : 1)),
  enrolled: [...index.enrolled]
    .map(([cohort, students]) => [cohort, [...students].sort()])
    .filter(([, students]) => students?.length)
    .sort(),
});

describe("facts gathered by person", () => {
  const base = [student("s1"), student("s2"), guardian("g1"), guardian("g2")];
  const more = fc.uniqueArray(
    fc.constantFrom(
      enrolment("s1", "a"),
      enrolment("s1", "b"),
      enrolment("s2", "a"),
      tie("g1", "s1"),
      tie("g1", "s2"),
      tie("g2", "s2"),
      address("g1", "x@lettr.example"),
      address("g2", "x@lettr.example"),
    ),
    { selector: factKey },
  );

  test("adding and taking away again is as if nothing had been", () => {
    fc.assert(
      fc.property(more, more, (kept, passing) => {
        const extra = passing.filter(
          (fact) => !kept.some((candidate) => factKey(candidate) === factKey(fact)),
        );
        const index = indexFacts(mapOf(...base, ...kept));
        for (const fact of extra) addToIndex(index, fact);
        for (const fact of extra) removeFromIndex(index, fact);
        expect(plain(index)).toEqual(plain(indexFacts(mapOf(...base, ...kept))));
      }),
    );
  });

  test("the order of facts makes no difference", () => {
    fc.assert(
      fc.property(more, (facts) => {
        expect(plain(indexFacts(mapOf(...facts, ...base)))).toEqual(
          plain(indexFacts(mapOf(...base, ...[...facts].reverse()))),
        );
      }),
    );
  });

  test("a tie can be asked from both sides", () => {
    const index = indexFacts(mapOf(...base, tie("g1", "s1")));
    expect([
      index.people.get("g1")?.ties.has("s1"),
      index.people.get("s1")?.ties.has("g1"),
    ]).toEqual([true, true]);
  });

  test("somebody without a name has words for it", () => {
    expect([
      nameOf(undefined),
      nameOf({ given: "", family: "" }),
      nameOf({ given: "Una", family: "" }),
      nameOf({ given: "Una", family: "Holm" }),
    ]).toEqual(["someone without a name", "someone without a name", "Una", "Una Holm"]);
  });

  test.each([
    ["a", "a", true],
    ["a", "b", false],
    [{ given: "a", family: "b" }, { family: "b", given: "a" }, true],
    [{ given: "a", family: "b" }, { given: "a", family: "c" }, false],
    ["", { given: "", family: "" }, false],
  ])("values %j and %j say the same: %s", (one, other, wanted) =>
    expect(sameValue(one, other)).toBe(wanted),
  );
});

describe("recipes, lists and names in the index", () => {
  const origin = { from: "hand", by: "a test", at: "" } as const;
  const [first] = said(FIRST_RECIPES);
  const facts: Fact[] =
    first === undefined
      ? []
      : [
          { subject: "recipe:7", kind: "recipe", ref: "", value: first, origin },
          { subject: "7:class:wire", kind: "list", ref: "name", value: "ml-wire", origin },
          {
            subject: "7:class:wire",
            kind: "alias",
            ref: "ml-wire-old",
            value: "2027-07-31",
            origin,
          },
          { subject: "short:wire walk", kind: "short", ref: "", value: "wire", origin },
          {
            subject: "7:class:wire",
            kind: "kept",
            ref: "a@lettr.example",
            value: { side: "on", reason: "", by: "", lastDay: "" },
            origin,
          },
          { subject: "account:x", kind: "staff", ref: "", value: "", origin },
          { subject: "s1", kind: "detail", ref: "Instrument", value: "Drum", origin },
        ];

  test("are found by number, key and name", () => {
    const index = indexFacts(new Map(facts.map((fact) => [factKey(fact), fact])));
    expect(index.recipes.get(7)).toBe(first);
    expect([
      index.lists.get("7:class:wire")?.get("name"),
      index.aliases.get("7:class:wire")?.get("ml-wire-old"),
      index.shorts.get("wire walk"),
      index.kept.get("7:class:wire")?.get("a@lettr.example")?.side,
    ]).toEqual(["ml-wire", "2027-07-31", "wire", "on"]);
    expect([
      index.people.get("account:x")?.role,
      index.people.get("s1")?.details.get("Instrument"),
    ]).toEqual(["staff", "Drum"]);
  });

  test.each(facts.map((fact) => [fact.kind, fact] as const))(
    "a %s is taken out again without a trace",
    (_kind, fact) => {
      const index = indexFacts(new Map());
      addToIndex(index, fact);
      removeFromIndex(index, fact);
      expect([
        index.recipes.size,
        [...index.lists.values()].flatMap((list) => [...list]),
        [...index.aliases.values()].flatMap((alias) => [...alias]),
        index.shorts.size,
        [...index.kept.values()].flatMap((item) => [...item]),
        [...index.people.values()].flatMap(({ details }) => [...details]),
      ]).toEqual([0, [], [], 0, [], []]);
    },
  );

  test.each(["student-address", "convention", "carried over"] as const)(
    "the rule %s is written in few letters and read again",
    (rule) => {
      expect(unpackOrigin(packOrigin({ from: "rule", rule }))).toEqual({ from: "rule", rule });
      expect(
        unpackFacts(
          packFacts([
            { subject: "s", kind: "number", ref: "", value: "1", origin: { from: "rule", rule } },
          ]),
        )[0]?.origin,
      ).toEqual({ from: "rule", rule });
    },
  );

  test("a rule written before there were several is the one there was", () => {
    expect(unpackOrigin('["s"]')).toEqual({ from: "rule", rule: "student-address" });
  });
});

import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { say } from "@amigo/language/say";
import { POINT_WORDS, type ListPoint } from "../../lists/listPoint";
import { factsOf } from "../factsOf";
import { addToIndex, indexFacts, removeFromIndex } from "../indexFacts";
import { factKey, type Fact } from "../fact";
import { ALL_KINDS, kindOf } from "./allKinds";
import type { Crossing } from "./kind";

const origin = { from: "hand", by: "Juno Abara", at: "2026-09-01T08:00:00Z" } as const;
const day = fc.constantFrom("", "2026-08-31", "2026-09-01", "2027-06-30");
const word = fc.stringMatching(/^[a-z]{1,8}$/);
const person = word.map((id) => `s-${id}`);
const cohort = word.map((name) => `class:${name}`);
const listName = fc.oneof(
  word,
  fc.tuple(fc.nat(9), cohort).map(([number, of]) => `${number}:${of}`),
);

/** A value for each kind, with its subject and ref. */
const VALUES: {
  [Kind in Fact["kind"]]: fc.Arbitrary<{ subject: string; ref: string; value: unknown }>;
} = {
  student: fc.record({ subject: person, ref: fc.constant(""), value: fc.constant("") }),
  guardian: fc.record({ subject: person, ref: fc.constant(""), value: fc.constant("") }),
  staff: fc.record({ subject: person, ref: fc.constant(""), value: fc.constant("") }),
  name: fc.record({
    subject: person,
    ref: fc.constant(""),
    value: fc.record({ given: word, family: word }),
  }),
  number: fc.record({ subject: person, ref: fc.constant(""), value: word }),
  level: fc.record({ subject: person, ref: fc.constant(""), value: fc.nat(12).map(String) }),
  site: fc.record({ subject: person, ref: fc.constant(""), value: word }),
  enrolment: fc.record({ subject: person, ref: cohort, value: fc.constant("") }),
  tie: fc.record({ subject: word.map((id) => `g-${id}`), ref: person, value: word }),
  address: fc.record({
    subject: person,
    ref: word.map((name) => `${name}@oakmail.example`),
    value: fc.constant(""),
  }),
  detail: fc.record({ subject: person, ref: word, value: word }),
  cohort: fc.record({
    subject: cohort,
    ref: fc.constant(""),
    value: fc.record({ name: word, kind: fc.constant("class"), site: word, coach: word }),
  }),
  kept: fc.record({
    subject: listName,
    ref: word.map((name) => `${name}@oakmail.example`),
    value: fc.record({
      side: fc.constantFrom("on", "off"),
      reason: word,
      by: word,
      lastDay: day,
    }),
  }),
  list: fc.record({
    subject: listName,
    ref: fc.constantFrom(...Object.keys(POINT_WORDS)),
    value: word,
  }),
  alias: fc.record({ subject: listName, ref: word, value: day }),
  exemption: fc.record({
    subject: listName,
    ref: fc.constantFrom("writers", "convention"),
    value: fc.record({ allowed: word, until: day, by: word }),
  }),
  recipe: fc.record({
    subject: fc.nat(99).map((number) => `recipe:${number}`),
    ref: fc.constant(""),
    value: fc.record({
      name: word,
      label: word,
      position: fc.nat(9),
      each: fc.constant("class"),
      condition: fc.constant(""),
      audience: fc.constant("guardians of this"),
      pattern: word,
      preset: word,
      leads: word,
      adding: fc.constant("quietly"),
      season: fc.constantFrom("every season", "this season only"),
    }),
  }),
  preset: fc.record({
    subject: word.map((id) => `preset:${id}`),
    ref: fc.constant(""),
    value: fc.record({ name: word, what: word, writers: word }),
  }),
  short: fc.record({ subject: word.map((id) => `short:${id}`), ref: fc.constant(""), value: word }),
  bound: fc.record({
    subject: fc.constant("house"),
    ref: fc.constant("guardians outside"),
    value: fc.record({ allowed: word, usual: word }),
  }),
  invariant: fc.record({ subject: fc.constant("house"), ref: word, value: fc.constant("off") }),
};

const anyFact: fc.Arbitrary<Fact> = fc.oneof(
  ...Object.entries(VALUES).map(([kind, parts]) =>
    parts.map((part) => ({ ...part, kind, origin }) as Fact),
  ),
);

/** Facts of which no two are the same, and none of another person than the first, whose role comes with them. */
const anyFacts = fc
  .array(anyFact, { maxLength: 30 })
  .map((facts) => new Map(facts.map((fact) => [factKey(fact), fact])));

/** What is left to see of an index: everything but people and shelves that hold nothing. */
function seen(index: ReturnType<typeof indexFacts>): unknown {
  return Object.entries(index).map(([part, held]) => [
    part,
    [...(held as Map<string, unknown> | Set<string>)]
      .map((entry) =>
        JSON.stringify(entry, (_key, value: unknown) =>
          value instanceof Map || value instanceof Set ? [...value].sort() : value,
        ),
      )
      .filter((entry) => !entry.endsWith(",[]]"))
      .sort(),
  ]);
}

const across: Crossing = {
  today: "2026-09-01",
  listAfter: (key) => (key.includes(":") ? key.replace("class:", "class:next ") : key),
  cohortAfter: (key) => (key === "class:a" ? undefined : key.replace("class:", "class:next ")),
  levelAfter: (level) => String(Number(level) + 1),
};

describe("every kind of fact", () => {
  test("has a value of the shape it names, also once it is emptied", () => {
    fc.assert(
      fc.property(anyFact, (fact) => {
        const kind = kindOf(fact);
        expect(kind.value.parse(fact.value)).toEqual(fact.value);
        if (kind.blank !== undefined) expect(kind.value.parse(kind.blank)).toEqual(kind.blank);
      }),
    );
    for (const [name, kind] of Object.entries(ALL_KINDS)) {
      expect(kind.kind).toBe(name);
      expect(kind.value.safeParse({ given: 1 }).success).toBe(false);
    }
  });

  test("leaves an index as it was when it is taken in and out again", () => {
    fc.assert(
      fc.property(anyFacts, anyFact, (facts, fact) => {
        fc.pre(!facts.has(factKey(fact)));
        // Roles and ties make people; without them the person would be a new one.
        fc.pre(!["student", "guardian", "staff"].includes(fact.kind));
        const people = [fact.subject, fact.ref].filter((id) => /^[sg]-/.test(id));
        for (const id of people)
          facts.set(`${id}|student|`, { subject: id, kind: "student", ref: "", value: "", origin });
        const before = indexFacts(facts);
        // A name, number, class or the like is one for each subject: an older one would be replaced.
        fc.pre(
          ![...facts.values()].some(
            (other) =>
              other.kind === fact.kind && other.subject === fact.subject && fact.ref === other.ref,
          ),
        );
        const index = indexFacts(facts);
        addToIndex(index, fact);
        removeFromIndex(index, fact);
        expect(seen(index)).toEqual(seen(before));
      }),
    );
  });

  test("is found among the facts of its subject", () => {
    fc.assert(
      fc.property(anyFacts, (facts) => {
        const index = indexFacts(facts);
        for (const one of facts.values()) expect(factsOf(one.subject, facts, index)).toContain(one);
      }),
    );
  });

  test("can be named in a sentence, and on its person's page", () => {
    fc.assert(
      fc.property(anyFact, (fact) => {
        const kind = kindOf(fact);
        expect(say(kind.called(fact, (id) => id))).not.toBe("");
        const words = kind.words?.(fact, fact.subject, (id) => ({ asWritten: id }));
        if (words !== undefined) expect(words.begins).not.toEqual(words.ends);
      }),
    );
  });

  test("crosses into the next season as the same kind, and nothing past its last day does", () => {
    fc.assert(
      fc.property(anyFact, (fact) => {
        const kind = kindOf(fact);
        const next = kind.nextSeason === undefined ? fact : kind.nextSeason(fact, across);
        const lastDay =
          fact.kind === "kept"
            ? fact.value.lastDay
            : fact.kind === "exemption"
              ? fact.value.until
              : "";
        if (lastDay !== "" && lastDay < across.today) expect(next).toBeUndefined();
        else if (next !== undefined) expect(next.kind).toBe(fact.kind);
        if (
          kind.isKeptByHand?.(fact, across.today) === true &&
          kind.about === "list" &&
          lastDay >= across.today
        )
          expect(next).toBeDefined();
      }),
    );
    expect(
      kindOf({ subject: "s-a", kind: "level", ref: "", value: "4", origin } as Fact).nextSeason?.(
        { subject: "s-a", kind: "level", ref: "", value: "4", origin } as never,
        across,
      ),
    ).toMatchObject({ value: "5", origin: { from: "rule", rule: "carried over" } });
  });

  test.each<[Fact["kind"], string | undefined]>([
    ["name", "name"],
    ["number", "number"],
    ["address", "address"],
    ["level", "text"],
    ["detail", "text"],
    ["enrolment", undefined],
    ["cohort", undefined],
    ["recipe", undefined],
  ])("%s: personal as %s", (kind, personal) => {
    expect((ALL_KINDS[kind] as { personal?: string }).personal).toBe(personal);
  });

  test("of lists says one of the points that lists have", () => {
    const points = new Set<ListPoint>(Object.keys(POINT_WORDS) as ListPoint[]);
    for (const ref of points)
      expect(
        ALL_KINDS.list.called({ subject: "l", kind: "list", ref, value: "", origin }, () => "Wire"),
      ).toEqual({ say: "facts.whose", values: { who: "Wire", what: POINT_WORDS[ref] } });
  });
});

import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { applyCauses } from "../step/applyCauses";
import { findCauses } from "../step/findCauses";
import { ListBook, membersOf } from "../step/listMembers";
import { listsTouched } from "../step/listsTouched";
import { membersAsNeeded } from "../step/membersAsNeeded";
import { allWanted } from "../lists/wantedLists";
import { wantedLists } from "../lists/sharedWanted";
import { keepOnGone } from "../testing/keepOnGone";
import { after, HOUSE, some, type HouseEdit } from "../testing/houseEdits";
import { factKey, type Fact, type Facts } from "./fact";
import { factDifference } from "./factDifference";
import { factsOf } from "./factsOf";
import type { FactIndex } from "./factIndex";
import { addToIndex, indexFacts, indexOver, removeFromIndex, sharedIndex } from "./indexFacts";
import { changeable, LayeredMap, toChange } from "./layeredMap";
import { renewFacts } from "./renewFacts";

const sorted = <Value>(map: ReadonlyMap<string | number, Value>): [string, Value][] =>
  [...map].map(([key, value]): [string, Value] => [String(key), value]).sort();

/** An index as plain values, in an order of its own. */
const plain = (index: FactIndex) => ({
  ...Object.fromEntries(
    (["cohorts", "recipes", "shorts", "bounds", "presets"] as const).map((part) => [
      part,
      sorted<unknown>(index[part]),
    ]),
  ),
  ...Object.fromEntries(
    (["kept", "lists", "aliases", "exemptions"] as const).map((part) => [
      part,
      sorted<ReadonlyMap<string, unknown>>(index[part]).map(([key, inner]) => [key, sorted(inner)]),
    ]),
  ),
  enrolled: sorted(index.enrolled).map(([key, students]) => [key, [...students].sort()]),
  staff: [...index.staff].sort(),
  invariantsOff: [...index.invariantsOff].sort(),
  people: sorted(index.people).map(([, { cohorts, addresses, ties, details, ...person }]) => ({
    ...person,
    cohorts: [...cohorts].sort(),
    addresses: [...addresses].sort(),
    ties: [...ties].sort(),
    details: [...details].sort(),
  })),
});

/** Facts after some edits, as a layer on those before. */
const layered = (below: Facts, edits: readonly HouseEdit[]): LayeredMap<string, Fact> => {
  const facts = new LayeredMap(below);
  for (const edit of edits) edit(facts);
  return facts;
};

describe("a layered map", () => {
  const steps = fc.array(
    fc.tuple(
      fc.constantFrom("set", "delete", "layer", "clear"),
      fc.constantFrom("a", "b", "c", "d"),
      fc.integer({ min: 0, max: 3 }),
    ),
    { maxLength: 20 },
  );

  test("is at all times what a plain map would be, and leaves the one below as it is", () => {
    fc.assert(
      fc.property(fc.dictionary(fc.constantFrom("a", "b", "c"), fc.nat(3)), steps, (from, all) => {
        const below = new Map(Object.entries(from));
        const wanted = new Map(below);
        let map: Map<string, number> = new LayeredMap(below);
        for (const [what, key, value] of all) {
          if (what === "set")
            expect([...map.set(key, value)].sort()).toEqual([...wanted.set(key, value)].sort());
          if (what === "delete") expect(map.delete(key)).toBe(wanted.delete(key));
          if (what === "layer") map = new LayeredMap(map);
          if (what === "clear" && value === 0) {
            map.clear();
            wanted.clear();
          }
          const told: [string, number][] = [];
          map.forEach((item, itsKey) => told.push([itsKey, item]));
          expect([map.size, map.has(key), map.get(key)]).toEqual([
            wanted.size,
            wanted.has(key),
            wanted.get(key),
          ]);
          expect([
            sorted(map),
            told.sort(),
            [...map.keys()].sort(),
            [...map.values()].sort(),
          ]).toEqual([
            sorted(wanted),
            sorted(wanted),
            [...wanted.keys()].sort(),
            [...wanted.values()].sort(),
          ]);
        }
        expect(sorted(below)).toEqual(Object.entries(from).sort());
      }),
    );
  });

  test("is never more than two deep, and differs by no more than was done to it", () => {
    const below = new Map([
      ["a", 1],
      ["b", 2],
    ]);
    const first = new LayeredMap(below).set("c", 3);
    const second = new LayeredMap(first).set("a", 5);
    second.delete("b");
    expect(second.base).toBe(below);
    expect([[...second.differing()].sort(), second.differences]).toEqual([["a", "b", "c"], 3]);
    expect(sorted(first)).toEqual([
      ["a", 1],
      ["b", 2],
      ["c", 3],
    ]);
  });

  test("a value that another map has as well is copied before it is changed, and once", () => {
    const below = new Map([["a", new Set([1])]]);
    const first = new LayeredMap(below);
    toChange(first, "a", (set) => new Set(set))?.add(2);
    const second = new LayeredMap(first);
    toChange(second, "a", (set) => new Set(set))?.add(3);
    const again = second.get("a");
    expect(toChange(second, "a", (set) => new Set(set))).toBe(again);
    expect([below, first, second].map((map) => [...(map.get("a") ?? [])])).toEqual([
      [1],
      [1, 2],
      [1, 2, 3],
    ]);
    expect(toChange(second, "b", (set) => new Set(set))).toBeUndefined();
    expect(toChange(below, "a", () => new Set())).toBe(below.get("a"));
  });

  test("few changes make a layer, many a copy", () => {
    const below = new Map(Array.from({ length: 10 }, (_, at) => [String(at), at]));
    expect(changeable(below, 2)).toBeInstanceOf(LayeredMap);
    expect(changeable(below, 3)).not.toBeInstanceOf(LayeredMap);
    expect(sorted(changeable(below, 3))).toEqual(sorted(below));
    // What was layered before counts as well, so that layers never outgrow what they lie on.
    const layer = changeable(below, 2).set("10", 10).set("11", 11);
    expect(changeable(layer, 0)).toBeInstanceOf(LayeredMap);
    expect(changeable(layer, 1)).not.toBeInstanceOf(LayeredMap);
  });
});

describe("facts that are layered on others, whatever happens to a house", () => {
  test("differ by just what a comparison of all of them finds", () => {
    fc.assert(
      fc.property(some, some, some, (first, second, third) => {
        const below = after(HOUSE, first);
        const [one, other] = [layered(below, second), layered(below, third)];
        for (const [before, now] of [
          [below, one],
          [one, below],
          [one, other],
          [one, layered(one, third)],
        ] as const) {
          const { added, removed } = factDifference(before, now);
          const whole = factDifference(new Map(before), new Map(now));
          const keys = (facts: readonly Fact[]) => facts.map(factKey).sort();
          expect([keys(added), keys(removed)]).toEqual([keys(whole.added), keys(whole.removed)]);
        }
      }),
    );
  });

  test("have the index of all of them, and the lists that follow from it", () => {
    fc.assert(
      fc.property(some, some, some, (first, second, third) => {
        const below = after(HOUSE, first);
        const once = layered(below, second);
        const twice = layered(once, third);
        for (const facts of [once, twice, below]) {
          const whole = indexFacts(new Map(facts));
          expect(plain(sharedIndex(facts))).toEqual(plain(whole));
          expect(sorted(wantedLists(sharedIndex(facts)))).toEqual(sorted(allWanted(whole)));
        }
      }),
    );
  });

  test("lead to the same causes, and these to the same facts", () => {
    fc.assert(
      fc.property(some, some, (first, second) => {
        const below = after(HOUSE, first);
        const facts = layered(below, second);
        const causes = findCauses(below, facts);
        const told = (all: typeof causes) =>
          all.map(({ key, kind, title, adds, removes }) => ({
            ...{ key, kind, title },
            adds: adds.map(factKey).sort(),
            removes: removes.map(factKey).sort(),
          }));
        const whole = findCauses(new Map(below), new Map(facts));
        expect(told(causes)).toEqual(told(whole));
        expect(sorted(applyCauses(new LayeredMap(below), causes))).toEqual(
          sorted(applyCauses(new Map(below), whole)),
        );
      }),
    );
  });

  test("an index over another one leaves it as it is", () => {
    fc.assert(
      fc.property(some, some, (first, second) => {
        const below = indexFacts(after(HOUSE, first));
        const before = plain(below);
        const { added, removed } = factDifference(
          after(HOUSE, first),
          after(after(HOUSE, first), second),
        );
        const index = indexOver(below);
        for (const one of removed) removeFromIndex(index, one);
        for (const one of added) addToIndex(index, one);
        expect(plain(below)).toEqual(before);
      }),
    );
  });

  test("touch every list on which somebody else is to be, or about which anything else is wanted", () => {
    fc.assert(
      fc.property(some, some, (first, second) => {
        const below = after(HOUSE, first);
        const facts = layered(below, second);
        const touched = listsTouched(below, facts);
        const told = (of: Facts): Map<string, string> => {
          const index = indexFacts(new Map(of));
          const lists = allWanted(index);
          const members = membersAsNeeded(lists, index);
          return new Map(
            [...lists].map(([key, list]) => [
              key,
              JSON.stringify([list, list.open ? [...(members.get(key)?.keys() ?? [])].sort() : ""]),
            ]),
          );
        };
        const [were, are] = [told(below), told(facts)];
        const changed = [...new Set([...were.keys(), ...are.keys()])].filter(
          (key) => were.get(key) !== are.get(key),
        );
        expect(changed.filter((key) => touched?.has(key) === false)).toEqual([]);
      }),
    );
  });

  test("renewed subject by subject, step after step, they are those of all at once", () => {
    fc.assert(
      fc.property(fc.array(some, { minLength: 1, maxLength: 4 }), fc.boolean(), (steps, asks) => {
        let facts: Facts = HOUSE;
        let wanted = new Map(HOUSE);
        for (const edits of steps) {
          const then = after(wanted, edits);
          const { added, removed } = factDifference(wanted, then);
          const subjects = new Set([...added, ...removed].map(({ subject }) => subject));
          facts = renewFacts(
            facts,
            subjects,
            [...then.values()].filter(({ subject }) => subjects.has(subject)),
          );
          wanted = then;
          // Some ask for the lists at each step, and some only in the end.
          if (asks) wantedLists(sharedIndex(facts));
        }
        expect(sorted(facts)).toEqual(sorted(wanted));
        const whole = indexFacts(wanted);
        expect(plain(sharedIndex(facts))).toEqual(plain(whole));
        expect(sorted(wantedLists(sharedIndex(facts)))).toEqual(sorted(allWanted(whole)));
      }),
    );
  });

  test("every subject's facts are found through the index", () => {
    fc.assert(
      fc.property(some, (all) => {
        const facts = after(HOUSE, all);
        const index = indexFacts(facts);
        for (const subject of new Set([...facts.values()].map((one) => one.subject)))
          expect(factsOf(subject, facts, index).map(factKey).sort()).toEqual(
            [...facts.values()]
              .filter((one) => one.subject === subject)
              .map(factKey)
              .sort(),
          );
      }),
    );
  });

  test("who is on a list is the same, asked list by list or of all at once", () => {
    fc.assert(
      fc.property(some, (all) => {
        const facts = after(HOUSE, all);
        const index = indexFacts(facts);
        const lists = allWanted(index);
        const book = new ListBook(lists.values());
        const whole = membersOf(index, book);
        keepOnGone(index, book, whole);
        const asked = membersAsNeeded(lists, index);
        const ofLists = (members: typeof whole) =>
          [...new Set([...lists.keys(), ...whole.keys(), "9:nothing"])].map((key) => [
            key,
            sorted(members.get(key) ?? new Map<string, Set<string>>()).map(([address, people]) => [
              address,
              [...people].sort(),
            ]),
          ]);
        expect(ofLists(asked)).toEqual(ofLists(whole));
      }),
    );
  });
});

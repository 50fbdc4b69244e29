import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { factKey, sameValue, type Fact, type Facts } from "../facts/fact";
import { deriveFacts } from "../identity/deriveFacts";
import { applyCauses } from "./applyCauses";
import { findCauses } from "./findCauses";
import { takeBack } from "./takeBack";
import type { RowRecord } from "../sheet/rowRecord";

const CHILDREN = ["Ida Brandt", "Bram Brandt", "Una Holm", "Wren Eastlake"];
const CLASSES = ["Juggling One", "Trapeze Two", "Wire Walk"];

interface Child {
  child: number;
  class: number;
  address: number;
}

const child = fc.record({
  child: fc.nat(CHILDREN.length - 1),
  class: fc.nat(CLASSES.length - 1),
  address: fc.nat(3),
});
const sheet = fc.uniqueArray(child, { selector: (row) => row.child, maxLength: CHILDREN.length });

function facts(rows: readonly Child[], stand: Facts = new Map()): Facts {
  const records = rows.map((row, at): RowRecord => {
    const [given = "", family = ""] = (CHILDREN[row.child] ?? "").split(" ");
    return {
      sheet: "Roster",
      row: at + 2,
      number: `CW-${row.child}`,
      name: { given, family },
      level: "",
      site: "",
      classes: [CLASSES[row.class] ?? ""],
      teams: [],
      coach: "",
      address: undefined,
      answered: "",
      guardians: [
        {
          slot: 1,
          name: { given: "Halim", family },
          address: `${family.toLowerCase()}${row.address}@lettr.example`,
          written: "",
          column: 5,
          relationship: "",
        },
      ],
    };
  });
  return deriveFacts([{ source: "s", reading: "r", records }], stand, { studentAddress: "" }).facts;
}

/** What a round from one state to the next has begun and ended, as the database keeps it. */
function difference(before: Facts, after: Facts): { began: Fact[]; ended: Fact[] } {
  const not = (one: Facts, other: Facts): Fact[] =>
    [...one]
      .filter(([key, fact]) => {
        const twin = other.get(key);
        return twin === undefined || !sameValue(twin.value, fact.value);
      })
      .map(([, fact]) => fact);
  return { began: not(after, before), ended: not(before, after) };
}

const plain = (state: Facts) =>
  [...state].map(([key, { value }]) => `${key} ${JSON.stringify(value)}`).sort();
const step = (stand: Facts, rows: readonly Child[]): Facts =>
  applyCauses(stand, findCauses(stand, facts(rows, stand)));

describe("taking a round back", () => {
  test("right after it leads to the state before", () => {
    fc.assert(
      fc.property(sheet, sheet, (first, second) => {
        const before = step(new Map(), first);
        const after = step(before, second);
        const { began, ended } = difference(before, after);
        const back = takeBack(after, began, ended);
        expect(plain(back.facts)).toEqual(plain(before));
        expect(back.left).toEqual([]);
      }),
    );
  });

  test("after later rounds leaves nobody without what they hang on, and touches nothing that came later", () => {
    fc.assert(
      fc.property(sheet, sheet, sheet, (first, second, third) => {
        const before = step(new Map(), first);
        const after = step(before, second);
        const now = step(after, third);
        const { began, ended } = difference(before, after);
        const back = takeBack(now, began, ended).facts;
        for (const fact of back.values()) {
          if (fact.kind === "enrolment")
            expect(back.has(`${fact.ref}|cohort|`), factKey(fact)).toBe(true);
          if (fact.kind === "tie")
            expect(
              back.has(`${fact.ref}|student|`) && back.has(`${fact.subject}|guardian|`),
              factKey(fact),
            ).toBe(true);
          if (fact.kind === "address")
            expect(back.has(`${fact.subject}|guardian|`), factKey(fact)).toBe(true);
        }
        const later = difference(after, now).began.filter((fact) => fact.kind === "enrolment");
        for (const fact of later) expect(back.has(factKey(fact)), factKey(fact)).toBe(true);
      }),
    );
  });

  test("names what has changed since and leaves it", () => {
    const before = step(new Map(), [{ child: 0, class: 0, address: 0 }]);
    const after = step(before, [{ child: 0, class: 1, address: 1 }]);
    const now = step(after, [{ child: 0, class: 2, address: 1 }]);
    const { began, ended } = difference(before, after);
    const back = takeBack(now, began, ended);
    expect(back.left.map(({ fact, why }) => `${fact.kind} ${fact.ref} ${why}`)).toContain(
      "enrolment class:trapeze two changed since",
    );
    expect(
      [...back.facts.values()].filter(({ kind }) => kind === "address").map(({ ref }) => ref),
    ).toEqual(["brandt0@lettr.example"]);
  });
});

describe("taking back, fact by fact", () => {
  const origin = { from: "hand", by: "Juno", at: "" } as const;
  const fact = (subject: string, kind: Fact["kind"], ref: string, value: unknown): Fact =>
    ({ subject, kind, ref, value, origin }) as Fact;
  const mapOf = (...facts: Fact[]): Map<string, Fact> =>
    new Map(facts.map((one) => [factKey(one), one]));
  const student = fact("s", "student", "", "");
  const name = (family: string): Fact => fact("s", "name", "", { given: "Ida", family });
  const told = ({ left }: ReturnType<typeof takeBack>): string[] =>
    left.map(({ fact: { subject, kind, value }, why }) =>
      [subject, kind, JSON.stringify(value), why].join(" "),
    );

  test("what it ended comes back where nothing has taken its place", () => {
    const back = takeBack(mapOf(student), [], [name("Oak")]);
    expect([...back.facts.values()]).toEqual([student, name("Oak")]);
    expect(back.left).toEqual([]);
  });

  test("what it ended and somebody has put there again meanwhile, the same, is nothing to name", () => {
    const back = takeBack(mapOf(student, name("Oak")), [], [name("Oak")]);
    expect(back.left).toEqual([]);
    expect(back.facts.size).toBe(2);
  });

  test("what it ended and something else has taken the place of is left and named", () => {
    const back = takeBack(mapOf(student, name("Elm")), [], [name("Oak")]);
    expect(told(back)).toEqual(['s name {"given":"Ida","family":"Oak"} changed since']);
    expect([...back.facts.values()]).toContainEqual(name("Elm"));
  });

  test("what it changed and was changed again stays as it is, and the old isn't brought back", () => {
    const back = takeBack(mapOf(student, name("Pine")), [name("Elm")], [name("Oak")]);
    expect(told(back)).toEqual(['s name {"given":"Ida","family":"Elm"} changed since']);
    expect([...back.facts.values()]).toContainEqual(name("Pine"));
  });

  test("the name that a list got when it was made stays; one that somebody gave it goes", () => {
    const named = fact("1:class:x", "list", "name", "x-list");
    const byRule = { ...named, origin: { from: "rule", rule: "names" } } as unknown as Fact;
    expect([...takeBack(mapOf(byRule), [byRule], []).facts.values()]).toEqual([byRule]);
    expect(takeBack(mapOf(byRule), [byRule], []).left).toEqual([]);
    expect(takeBack(mapOf(named), [named], []).facts.size).toBe(0);
    const other = { ...student, origin: { from: "rule", rule: "names" } } as unknown as Fact;
    expect(takeBack(mapOf(other), [other], []).facts.size).toBe(0);
  });

  test("a person whom it brought, and on whom something newer hangs, stays with name and number", () => {
    const number = fact("s", "number", "", "CW-1");
    const newer = fact("s", "address", "ida@lettr.example", "");
    const stand = mapOf(student, name("Oak"), number, newer);
    const back = takeBack(stand, [student, name("Oak"), number], []);
    expect([...back.facts.keys()].sort()).toEqual([...stand.keys()].sort());
    expect(told(back).every((one) => one.endsWith("changed since"))).toBe(true);
    expect(back.left).toHaveLength(3);
  });

  test("what would hang on nobody isn't brought back, and is named", () => {
    const enrolment = fact("s", "enrolment", "class:gone", "");
    const back = takeBack(mapOf(student), [], [enrolment]);
    expect([...back.facts.values()]).toEqual([student]);
    expect(told(back)).toEqual(['s enrolment "" has no owner now']);
  });
});

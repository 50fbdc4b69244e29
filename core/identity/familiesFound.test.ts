import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { inOrder } from "@amigo/language/inOrder";
import type { Fact, Facts } from "../facts/fact";
import { factDifference } from "../facts/factDifference";
import { indexFacts, shareIndexOver, sharedIndex } from "../facts/indexFacts";
import type { FactIndex, Person } from "../facts/factIndex";
import { after, HOUSE, some } from "../testing/houseEdits";
import { smallHouse } from "../testing/smallHouse";
import { families } from "./families";
import { familiesFound, type WhichFamilies } from "./familiesFound";

const ids = [...indexFacts(HOUSE).people.keys()];
const sets = fc.option(
  fc.subarray(ids).map((found) => new Set(found)),
  { nil: undefined },
);

/** By looking at every student: one for each group that shares a guardian directly, by name. */
function plainly(index: FactIndex, { found, only, within }: WhichFamilies): string[] {
  const students = [...index.people.values()].filter(({ role }) => role === "student");
  const sees = (id: string): boolean => within?.has(id) ?? true;
  const isFound = (student: Person): boolean =>
    found === undefined ||
    found.has(student.id) ||
    [...student.ties.keys()].some(
      (id) => found.has(id) && index.people.get(id)?.role === "guardian",
    );
  const firstOf = (student: Person): string =>
    [
      student.id,
      ...[...student.ties.keys()].flatMap((id) => [...(index.people.get(id)?.ties.keys() ?? [])]),
    ]
      .filter(sees)
      .sort()[0] ?? student.id;
  const shown = students.filter(
    (student) => isFound(student) && sees(student.id) && (only?.has(student.id) ?? true),
  );
  return [...new Set(shown.map(firstOf))];
}

describe("families that are found", () => {
  test("are those of whoever is found, seen and asked for, each once, in order, whatever has changed", () => {
    fc.assert(
      fc.property(some, some, sets, sets, sets, (first, second, found, only, within) => {
        const before = after(HOUSE, first);
        familiesFound(sharedIndex(before), {});
        const then = after(before, second);
        const index = shareIndexOver(before, then, factDifference(before, then));
        const shown = familiesFound(index, { found, only, within });
        expect([...shown].sort()).toEqual(plainly(index, { found, only, within }).sort());
        const names = shown.map((id) => index.people.get(id)).filter((one) => one !== undefined);
        for (const [at, { family, given }] of names.entries()) {
          const next = names[at + 1];
          if (next === undefined) continue;
          expect(inOrder(family, next.family) || inOrder(given, next.given)).toBeLessThanOrEqual(0);
        }
      }),
    );
  });

  test("are one where children share a guardian", () => {
    const index = indexFacts(smallHouse());
    const all = familiesFound(index, {});
    const family = families(index);
    expect(new Set(all.map((id) => family.get(id))).size).toBe(all.length);
    expect(familiesFound(index, { found: new Set(["nobody"]) })).toEqual([]);
    expect(familiesFound(index, { only: new Set() })).toEqual([]);
  });

  test("stand by family name, first name and id; children of one guardian under the least id", () => {
    const fact = (subject: string, kind: string, ref = "", value: unknown = ""): [string, Fact] => [
      `${subject}|${kind}|${ref}`,
      { subject, kind, ref, value, origin: { from: "hand", by: "Juno Abara", at: "" } } as Fact,
    ];
    const student = (id: string, given: string, family: string) => [
      fact(id, "student"),
      fact(id, "name", "", { given, family }),
    ];
    const guardian = (id: string, ...children: string[]) => [
      fact(id, "guardian"),
      fact(id, "name", "", { given: "Aa", family: "Aa" }),
      ...children.map((child) => fact(id, "tie", child)),
    ];
    const house: Facts = new Map([
      ...student("s-5", "Una", "Vale"),
      ...student("s-4", "Tove", "Skov"),
      ...student("s-3", "Esben", "Skov"),
      ...student("s-2", "Tove", "Skov"),
      ...student("s-1", "Liv", "Zorn"),
      ...student("s-6", "Ea", "Skov"),
      ...guardian("g-1", "s-1", "s-6"),
      ...guardian("g-2", "s-2"),
      ...guardian("g-9"),
    ]);
    const index = sharedIndex(house);
    const all = ["s-3", "s-2", "s-4", "s-5", "s-1"];
    expect(familiesFound(index, {})).toEqual(all);
    expect(familiesFound(index, { found: new Set(["s-6", "s-3"]) })).toEqual(["s-3", "s-1"]);
    expect(familiesFound(index, { found: new Set(["g-1", "g-9", "s-4"]) })).toEqual(["s-4", "s-1"]);
    expect(familiesFound(index, { only: new Set(["s-6", "s-2"]) })).toEqual(["s-2", "s-1"]);
    expect(familiesFound(index, { within: new Set(["s-6", "s-5"]) })).toEqual(["s-6", "s-5"]);
    expect(familiesFound(index, { found: new Set(["g-1"]), within: new Set(["s-6"]) })).toEqual([
      "s-6",
    ]);
    expect(familiesFound(index, {})).toEqual(all);
    // A change of what doesn't matter keeps the order; a new name or tie makes it anew.
    const renewed = (...changes: [string, Fact][]) => {
      const then = new Map([...house, ...changes]);
      return familiesFound(shareIndexOver(house, then, factDifference(house, then)), {});
    };
    expect(renewed(fact("s-3", "level", "", "4"))).toEqual(all);
    expect(renewed(fact("s-3", "name", "", { given: "Esben", family: "Zz" }))).toEqual([
      "s-2",
      "s-4",
      "s-5",
      "s-1",
      "s-3",
    ]);
    expect(renewed(fact("g-2", "tie", "s-4"))).toEqual(["s-3", "s-2", "s-5", "s-1"]);
  });
});

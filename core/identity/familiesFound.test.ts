import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { inOrder } from "@amigo/language/inOrder";
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
});

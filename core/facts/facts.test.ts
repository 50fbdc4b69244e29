import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { factKey, sameValue, type Fact, type Origin } from "./fact";
import { addToIndex, indexFacts, nameOf, removeFromIndex, type FactIndex } from "./indexFacts";

const origin: Origin = { from: "rule", rule: "student-address" };
const student = (id: string): Fact => ({ subject: id, kind: "student", ref: "", value: "", origin });
const guardian = (id: string): Fact => ({ subject: id, kind: "guardian", ref: "", value: "", origin });
const enrolment = (id: string, cohort: string): Fact => ({ subject: id, kind: "enrolment", ref: cohort, value: "", origin });
const tie = (id: string, child: string): Fact => ({ subject: id, kind: "tie", ref: child, value: "", origin });
const address = (id: string, at: string): Fact => ({ subject: id, kind: "address", ref: at, value: "", origin });
const mapOf = (...facts: Fact[]) => new Map(facts.map((fact) => [factKey(fact), fact]));

const plain = (index: FactIndex) => ({
  people: [...index.people.values()].map(({ cohorts, addresses, ties, ...person }) => ({ ...person, cohorts: [...cohorts].sort(), addresses: [...addresses].sort(), ties: [...ties].sort() })).sort((a, b) => (a.id < b.id ? -1 : 1)),
  enrolled: [...index.enrolled].map(([cohort, students]) => [cohort, [...students].sort()]).filter(([, students]) => students?.length).sort(),
});

describe("facts gathered by person", () => {
  const base = [student("s1"), student("s2"), guardian("g1"), guardian("g2")];
  const more = fc.uniqueArray(fc.constantFrom(enrolment("s1", "a"), enrolment("s1", "b"), enrolment("s2", "a"), tie("g1", "s1"), tie("g1", "s2"), tie("g2", "s2"), address("g1", "x@lettr.example"), address("g2", "x@lettr.example")), { selector: factKey });

  test("adding and taking away again is as if nothing had been", () => {
    fc.assert(fc.property(more, more, (kept, passing) => {
      const extra = passing.filter((fact) => !kept.some((own) => factKey(own) === factKey(fact)));
      const index = indexFacts(mapOf(...base, ...kept));
      for (const fact of extra) addToIndex(index, fact);
      for (const fact of extra) removeFromIndex(index, fact);
      expect(plain(index)).toEqual(plain(indexFacts(mapOf(...base, ...kept))));
    }));
  });

  test("the order of facts makes no difference", () => {
    fc.assert(fc.property(more, (facts) => {
      expect(plain(indexFacts(mapOf(...facts, ...base)))).toEqual(plain(indexFacts(mapOf(...base, ...[...facts].reverse()))));
    }));
  });

  test("a tie can be asked from both sides", () => {
    const index = indexFacts(mapOf(...base, tie("g1", "s1")));
    expect([index.people.get("g1")?.ties.has("s1"), index.people.get("s1")?.ties.has("g1")]).toEqual([true, true]);
  });

  test("somebody without a name has words for it", () => {
    expect([nameOf(undefined), nameOf({ given: "", family: "" }), nameOf({ given: "Una", family: "" }), nameOf({ given: "Una", family: "Holm" })]).toEqual(["someone without a name", "someone without a name", "Una", "Una Holm"]);
  });

  test.each([
    ["a", "a", true], ["a", "b", false], [{ given: "a", family: "b" }, { family: "b", given: "a" }, true], [{ given: "a", family: "b" }, { given: "a", family: "c" }, false], ["", { given: "", family: "" }, false],
  ])("values %j and %j say the same: %s", (one, other, wanted) => expect(sameValue(one, other)).toBe(wanted));
});

import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { addToIndex, indexFacts } from "../facts/indexFacts";
import type { FactIndex, Person } from "../facts/factIndex";
import { origin, smallHouse } from "../testing/smallHouse";
import { countReached, guardiansOf, isReached, whyUnreached, workingAddresses } from "./reach";

const NONE = new Set<string>();

function person(index: FactIndex, id: string): Person {
  const found = index.people.get(id);
  if (found === undefined) throw new Error(`${id} is not in the small house`);
  return found;
}

describe("a student can be reached", () => {
  const index = indexFacts(smallHouse());

  test("where a guardian has an address that works", () => {
    expect(whyUnreached(person(index, "ida"), index, NONE)).toBeUndefined();
    expect(isReached(person(index, "ida"), index, NONE)).toBe(true);
  });

  test("not through an address of their own alone, for mail about a child goes to guardians", () => {
    expect(person(index, "bram2").addresses.size).toBe(1);
    expect(whyUnreached(person(index, "bram2"), index, NONE)).toEqual({ why: "no guardian" });
  });

  test("not where mail to every guardian comes back, but still where one address is left", () => {
    const stopped = new Set(["halim@lettr.example"]);
    expect(whyUnreached(person(index, "ida"), index, stopped)).toEqual({
      why: "mail comes back",
      addresses: ["halim@lettr.example"],
    });
    const second = indexFacts(smallHouse());
    addToIndex(second, {
      subject: "halim",
      kind: "address",
      ref: "halim@work.example",
      value: "",
      origin,
    });
    expect(isReached(person(second, "ida"), second, stopped)).toBe(true);
  });

  test("not where the guardians are known by name alone", () => {
    const facts = smallHouse();
    facts.delete("fenna|address|fenna@lettr.example");
    const nameless = indexFacts(facts);
    const why = whyUnreached(person(nameless, "bram"), nameless, NONE);
    expect(why).toMatchObject({ why: "no address", guardians: [{ id: "fenna" }] });
  });

  test("one stopped address can cost several children of a family", () => {
    const students = ["ida", "wren", "hana", "bram", "bram2"].map((id) => person(index, id));
    expect(countReached(students, index, NONE)).toEqual({ students: 5, reached: 4 });
    expect(countReached(students, index, new Set(["tove@lettr.example"]))).toEqual({
      students: 5,
      reached: 2,
    });
  });
});

test("stopping more addresses never reaches more students, and what counts as reached has an address left", () => {
  const index = indexFacts(smallHouse());
  const students = [...index.people.values()].filter(({ role }) => role === "student");
  const addresses = [...index.people.values()].flatMap((one) => [...one.addresses]);
  fc.assert(
    fc.property(fc.subarray(addresses), fc.subarray(addresses), (some, more) => {
      const few = new Set(some);
      const many = new Set([...some, ...more]);
      expect(countReached(students, index, many).reached).toBeLessThanOrEqual(
        countReached(students, index, few).reached,
      );
      for (const student of students)
        expect(isReached(student, index, many)).toBe(
          guardiansOf(student, index).some(
            (guardian) => workingAddresses(guardian.addresses, many).length > 0,
          ),
        );
    }),
  );
});

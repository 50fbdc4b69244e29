import fc from "fast-check";
import { expect, test } from "vitest";
import { indexFacts } from "../facts/indexFacts";
import { after, HOUSE, some } from "../testing/houseEdits";
import { families } from "./families";

test("a family is whoever is tied to each other, over however many, whoever is asked about first", () => {
  fc.assert(
    fc.property(some, fc.integer(), (edits, seed) => {
      const index = indexFacts(after(HOUSE, edits));
      const people = [...index.people.values()];
      // The plain way: names of families spread along ties until nothing changes any more.
      const plain = new Map(people.map(({ id }) => [id, id]));
      for (let isChanged = true; isChanged;) {
        isChanged = false;
        for (const { id, ties } of people)
          for (const other of ties.keys()) {
            const [one = id, two = other] = [plain.get(id), plain.get(other)];
            const least = one < two ? one : two;
            if (one === two) continue;
            plain.set(id, least);
            plain.set(other, least);
            isChanged = true;
          }
      }
      const family = families(index);
      const order = [...people].sort(
        (a, b) => Math.sin(seed + a.id.length) - Math.sin(seed + b.id.length),
      );
      for (const { id } of order) expect([id, family.get(id)]).toEqual([id, plain.get(id)]);
      expect(family.get("nobody")).toBe("nobody");
    }),
  );
});

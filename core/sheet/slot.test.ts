import fc from "fast-check";
import { expect, test } from "vitest";
import { columnSlot, slotOf } from "./slot";

test("the people of a cell have slots of their own, and each leads back to its column", () => {
  expect(slotOf(2, 0)).toBe(2);
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 9 }), fc.nat(8)), {
        selector: ([column, nth]) => `${column} ${nth}`,
      }),
      (people) => {
        const slots = people.map(([column, nth]) => slotOf(column, nth));
        expect(new Set(slots).size).toBe(people.length);
        expect(slots.map(columnSlot)).toEqual(people.map(([column]) => column));
      },
    ),
  );
});

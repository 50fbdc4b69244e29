import fc from "fast-check";
import { expect, test } from "vitest";
import { factDifference } from "../facts/factDifference";
import { indexFacts, shareIndexOver, sharedIndex } from "../facts/indexFacts";
import { after, HOUSE, some } from "../testing/houseEdits";
import { wholeReach } from "./reach";
import { reachByCohort } from "./reachByCohort";

const plain = (map: ReadonlyMap<string, unknown>): [string, unknown][] =>
  [...map].sort(([one], [other]) => (one < other ? -1 : 1));

test("what is counted by what differs is what counting everybody gives", () => {
  const addresses = [...HOUSE.values()].flatMap(({ kind, ref }) =>
    kind === "address" ? [ref] : [],
  );
  const stops = fc.subarray(addresses, { maxLength: 3 }).map((found) => new Set(found));
  fc.assert(
    fc.property(
      fc.array(some, { minLength: 1, maxLength: 4 }),
      fc.array(stops, { minLength: 5, maxLength: 5 }),
      fc.boolean(),
      (steps, stopped, isSameStop) => {
        let facts = after(HOUSE, []);
        reachByCohort(sharedIndex(facts), stopped[0] ?? new Set());
        wholeReach(sharedIndex(facts), stopped[0] ?? new Set());
        for (const [turn, step] of steps.entries()) {
          const then = after(facts, step);
          const difference = factDifference(facts, then);
          const index = shareIndexOver(facts, then, difference);
          const stop = stopped[isSameStop ? 0 : turn + 1] ?? new Set<string>();
          expect(plain(reachByCohort(index, stop))).toEqual(
            plain(reachByCohort(indexFacts(then), stop)),
          );
          const [whole, counted] = [wholeReach(index, stop), wholeReach(indexFacts(then), stop)];
          expect([whole.students, plain(whole.unreached)]).toEqual([
            counted.students,
            plain(counted.unreached),
          ]);
          // Asked again, and with others that have stopped.
          expect(reachByCohort(index, new Set(stop))).toBe(reachByCohort(index, stop));
          facts = then;
        }
      },
    ),
  );
});

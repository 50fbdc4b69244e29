import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { netChanges, sumChanges } from "./netChanges";
import type { Change } from "./change";

const joins = (address: string, list = "rope"): Change => ({
  list,
  kind: "joins",
  address,
  instead: undefined,
  person: "p",
});
const leaves = (address: string, list = "rope"): Change => ({
  ...joins(address, list),
  kind: "leaves",
});
const replaces = (address: string, instead: string, list = "rope"): Change => ({
  ...joins(address, list),
  kind: "replaced",
  instead,
});

describe("what changes come to in the end", () => {
  test("is nothing where one cause takes an address off and another puts it there", () => {
    expect(netChanges([leaves("a"), joins("a")])).toEqual([]);
    expect(netChanges([joins("a"), leaves("a")])).toEqual([]);
    expect(sumChanges([leaves("a"), joins("a")]).counts).toEqual({
      joins: 0,
      leaves: 0,
      replaced: 0,
      lists: 0,
    });
    expect(sumChanges([leaves("a"), joins("a"), joins("b")]).byList).toEqual(
      new Map([["rope", { joins: 1, leaves: 0 }]]),
    );
  });

  test("keeps lists apart", () => {
    expect(netChanges([leaves("a", "rope"), joins("a", "silks")])).toHaveLength(2);
    expect(sumChanges([leaves("a", "rope"), joins("a", "silks")]).counts).toMatchObject({
      lists: 2,
    });
  });

  test("keeps a replacement whole where both of its addresses move, and the half of it that does otherwise", () => {
    expect(netChanges([replaces("new", "old")])).toEqual([replaces("new", "old")]);
    expect(netChanges([replaces("new", "old"), joins("old")])).toEqual([joins("new")]);
    expect(netChanges([leaves("new"), replaces("new", "old")])).toEqual([leaves("old")]);
    expect(netChanges([leaves("new"), replaces("new", "old"), joins("old")])).toEqual([]);
    expect(sumChanges([replaces("new", "old")]).byList.get("rope")).toEqual({
      joins: 1,
      leaves: 1,
    });
  });

  test("tells the last of several changes of one address", () => {
    const last = { ...joins("a"), person: "last" };
    expect(netChanges([joins("a"), leaves("a"), last])).toEqual([last]);
  });
});

test("leads from any members to the same members as the changes themselves, with no change that does nothing", () => {
  const addresses = ["a", "b", "c", "d"];
  const step = fc.record({
    kind: fc.constantFrom("joins", "leaves", "replaced"),
    address: fc.constantFrom(...addresses),
    instead: fc.constantFrom(...addresses),
    list: fc.constantFrom("rope", "silks"),
  });
  const apply = (places: Set<string>, changes: readonly Change[]): Set<string> => {
    for (const { list, kind, address, instead } of changes) {
      if (kind === "leaves") places.delete(`${list} ${address}`);
      else places.add(`${list} ${address}`);
      if (instead !== undefined) places.delete(`${list} ${instead}`);
    }
    return places;
  };
  fc.assert(
    fc.property(fc.subarray(addresses), fc.array(step, { maxLength: 12 }), (start, steps) => {
      const before = new Set(start.flatMap((address) => [`rope ${address}`, `silks ${address}`]));
      // Only what can be done is a change: nobody joins twice, and nobody leaves a list that they are not on.
      const places = new Set(before);
      const changes: Change[] = [];
      for (const { kind, address, instead, list } of steps) {
        const isOn = (one: string): boolean => places.has(`${list} ${one}`);
        if (kind === "joins" && isOn(address)) continue;
        if (kind === "leaves" && !isOn(address)) continue;
        if (kind === "replaced" && (isOn(address) || !isOn(instead))) continue;
        const change =
          kind === "replaced"
            ? replaces(address, instead, list)
            : kind === "joins"
              ? joins(address, list)
              : leaves(address, list);
        changes.push(change);
        apply(places, [change]);
      }
      const net = netChanges(changes);
      expect([...apply(new Set(before), net)].sort()).toEqual([...places].sort());
      const { counts } = sumChanges(changes);
      expect([...places].filter((place) => !before.has(place))).toHaveLength(
        counts.joins + counts.replaced,
      );
      expect([...before].filter((place) => !places.has(place))).toHaveLength(
        counts.leaves + counts.replaced,
      );
    }),
    { numRuns: 500 },
  );
});

import { describe, expect, test } from "vitest";
import { parseAudience } from "../audience/parseAudience";
import { factKey, type Fact } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import type { FactIndex } from "../facts/factIndex";
import { origin, smallHouse } from "../testing/smallHouse";
import type { Cause } from "./cause";
import { emptyGone, isOfGone } from "./goneLists";
import { addMember, KEPT, ListBook, type Members } from "./listMembers";
import { membersAsNeeded } from "./membersAsNeeded";

const fact = (subject: string, kind: Fact["kind"], ref: string, value: unknown): Fact =>
  ({ subject, kind, ref, value, origin }) as Fact;
const kept = (list: string, address: string, side: "on" | "off"): Fact =>
  fact(list, "kept", address, { side, lastDay: "", reason: "", by: "Juno" });
const indexOf = (...more: Fact[]): FactIndex =>
  indexFacts(new Map([...smallHouse(), ...more.map((one) => [factKey(one), one] as const)]));
const found = parseAudience("staff");
if (!found.ok) throw new Error("no audience");
const { audience } = found;

describe("a list of a class that is gone", () => {
  test.each([
    ["1:class:long gone", true],
    ["1:team:long gone", true],
    ["1:committee:long gone", true],
    ["1:class:trapeze two", false],
    ["1:team:night parade", false],
    // Levels, sites and the house are no cohorts: nothing says that they are gone.
    ["1:level:4", false],
    ["1:site:mill loft", false],
    ["1:house", false],
    ["0b0e7a52-1111-4000-8000-000000000001", false],
  ])("%s: %s", (list, isGone) => {
    expect(isOfGone(list, indexOf())).toBe(isGone);
  });

  test("keeps those who are always on it, and nobody else", () => {
    const gone = "1:class:long gone";
    const index = indexOf(
      kept(gone, "on@lettr.example", "on"),
      kept(gone, "off@lettr.example", "off"),
      kept("1:class:trapeze two", "there@lettr.example", "on"),
    );
    const members = membersAsNeeded(new Map(), index);
    expect([...(members.get(gone) ?? [])]).toEqual([["on@lettr.example", new Set([KEPT])]]);
    expect(members.get("1:class:trapeze two")).toBeUndefined();
  });

  test("that is still there has those who belong on it as well", () => {
    const gone = "1:class:long gone";
    const members = membersAsNeeded(
      new Map([[gone, { key: gone, audience, open: true }]]),
      indexOf(kept(gone, "on@lettr.example", "on")),
    );
    expect([...(members.get(gone)?.keys() ?? [])].length).toBeGreaterThan(1);
    expect(members.get(gone)?.get("on@lettr.example")).toEqual(new Set([KEPT]));
  });
});

describe("a cause that ends a class", () => {
  const GONE = "class:long gone";
  const cohort = (key: string): Fact =>
    fact(key, "cohort", "", { name: "x", kind: "class", site: "", coach: "" });
  const ending = (...removes: Fact[]): Cause => ({ adds: [], removes }) as unknown as Cause;
  const start = (isOpen = true) => {
    const lists = [`1:${GONE}`, "2:class:trapeze two", "0b0e7a52-1111-4000-8000-000000000001"];
    const book = new ListBook(lists.map((key) => ({ key, audience, open: isOpen })));
    const members: Members = new Map();
    for (const list of lists) {
      addMember(members, list, "ida@lettr.example", "ida");
      addMember(members, list, "kept@lettr.example", KEPT);
    }
    return { book, members };
  };

  test("takes whoever is left off its lists, all but those who are always on them, and no other list", () => {
    const { book, members } = start();
    expect(emptyGone(ending(cohort(GONE)), indexOf(), book, members)).toEqual([
      {
        list: `1:${GONE}`,
        kind: "leaves",
        address: "ida@lettr.example",
        instead: undefined,
        person: "ida",
      },
    ]);
    expect([...(members.get(`1:${GONE}`)?.keys() ?? [])]).toEqual(["kept@lettr.example"]);
    expect(members.get("2:class:trapeze two")?.size).toBe(2);
    expect(book.byKey.has(`1:${GONE}`)).toBe(false);
    expect(book.byKey.has("2:class:trapeze two")).toBe(true);
  });

  test("changes nothing on a closed list, or on one that isn't in the book", () => {
    const closed = start(false);
    expect(emptyGone(ending(cohort(GONE)), indexOf(), closed.book, closed.members)).toEqual([]);
    expect(closed.members.get(`1:${GONE}`)?.size).toBe(2);
    const { members } = start();
    expect(emptyGone(ending(cohort(GONE)), indexOf(), new ListBook([]), members)).toEqual([]);
  });

  test("is only one that takes the class itself away, for good", () => {
    const { book, members } = start();
    const other = fact(GONE, "level", "", "4");
    expect(emptyGone(ending(other), indexOf(), book, members)).toEqual([]);
    // A class that changes is taken away and put back in one cause: it is still there.
    const still = cohort("class:trapeze two");
    expect(emptyGone(ending(still), indexOf(), book, members)).toEqual([]);
    expect(members.get("2:class:trapeze two")?.size).toBe(2);
  });
});

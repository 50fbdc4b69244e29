import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { byteRange } from "./byteRange";
import { fileType } from "./fileType";
import { memberMay, MEMBERS_MAY, type MembersMay } from "./membersMay";
import { mayOpen, type MayOpen, type ShelvedThing, type Spell } from "./mayOpen";

const at = (hour: number): Date => new Date(Date.UTC(2026, 10, 1, hour));
const TODAY = "2026-11-01";
const thing: ShelvedThing = { lists: ["a"], untilDay: "", isTakenOff: false };
const spell = (list: string, from: number, until: number | null = null): Spell => ({
  list,
  from: at(from),
  until: until === null ? null : at(until),
});
const open = new Set(["a", "b"]);

describe("who may open something on a shelf", () => {
  test.each<[string, Partial<ShelvedThing>, Spell[], ReturnType<typeof mayOpen>]>([
    ["a member, since they came", {}, [spell("a", 1)], { may: true, list: "a", since: at(1) }],
    ["nobody who was never on the list", {}, [spell("b", 1)], { may: false, because: "never" }],
    ["nobody", {}, [], { may: false, because: "never" }],
    [
      "not who has left, and it tells when",
      {},
      [spell("a", 1, 3), spell("a", 4, 6)],
      { may: false, because: "left", until: at(6) },
    ],
    [
      "who has come back",
      {},
      [spell("a", 1, 3), spell("a", 5)],
      { may: true, list: "a", since: at(5) },
    ],
    [
      "who is on another of its lists",
      { lists: ["a", "b"] },
      [spell("a", 1, 3), spell("b", 2)],
      { may: true, list: "b", since: at(2) },
    ],
    ["not yet who comes later", {}, [spell("a", 12)], { may: false, because: "never" }],
    [
      "on its last day",
      { untilDay: "2026-11-01" },
      [spell("a", 1)],
      { may: true, list: "a", since: at(1) },
    ],
    [
      "nobody after its last day",
      { untilDay: "2026-10-31" },
      [spell("a", 1)],
      { may: false, because: "over" },
    ],
    [
      "nobody what was taken off",
      { isTakenOff: true },
      [spell("a", 1)],
      { may: false, because: "off" },
    ],
    [
      "nobody whose list is closed",
      { lists: ["gone"] },
      [spell("gone", 1)],
      { may: false, because: "closed" },
    ],
  ])("%s", (_, part, spells, wanted) => {
    expect(mayOpen({ ...thing, ...part }, spells, open, TODAY, at(10))).toEqual(wanted);
  });

  const hours = fc.integer({ min: 0, max: 20 });
  const list = fc.constantFrom("a", "b", "c");
  const anySpell = fc
    .tuple(list, hours, fc.option(fc.integer({ min: 1, max: 20 })))
    .map(([on, from, long]) => spell(on, from, long === null ? null : from + long));
  const anyThing = fc.record({
    lists: fc.uniqueArray(list),
    untilDay: fc.constantFrom("", "2026-10-31", "2026-11-01", "2026-11-02"),
    isTakenOff: fc.boolean(),
  });
  const openLists = fc.uniqueArray(list).map((lists) => new Set(lists));

  test("is who is on an open list of it at that very moment, by whatever way they came", () => {
    fc.assert(
      fc.property(anyThing, fc.array(anySpell), openLists, hours, (some, spells, lists, hour) => {
        const said = mayOpen(some, spells, lists, TODAY, at(hour));
        // By another rule: count the lists that hold for this very hour.
        const holding = [...lists].filter(
          (one) =>
            some.lists.includes(one) &&
            spells.some(
              ({ list: on, from, until }) =>
                on === one && from <= at(hour) && !(until !== null && until <= at(hour)),
            ),
        );
        const isThere = !some.isTakenOff && !(some.untilDay !== "" && some.untilDay < TODAY);
        expect(said.may).toBe(isThere && holding.length > 0);
        if (said.may) expect(holding).toContain(said.list);
      }),
    );
  });

  test("loses it by leaving, and by nothing that happens to others", () => {
    fc.assert(
      fc.property(anyThing, fc.array(anySpell), openLists, hours, (some, spells, lists, hour) => {
        const left = spells.map((one) => ({ ...one, until: one.until ?? at(hour) }));
        const ended = left.map((one) => ({
          ...one,
          until: one.until > at(hour) ? at(hour) : one.until,
        }));
        expect(mayOpen(some, ended, lists, TODAY, at(hour)).may).toBe(false);
        const more = [...spells, spell("another", 0)];
        expect(mayOpen(some, more, lists, TODAY, at(hour)).may).toBe(
          mayOpen(some, spells, lists, TODAY, at(hour)).may,
        );
      }),
    );
  });

  test("who leaves and whose leaving is taken back may open it again", () => {
    fc.assert(
      fc.property(anyThing, anySpell, openLists, (some, one, lists) => {
        const before = mayOpen(some, [{ ...one, until: null }], lists, TODAY, at(20));
        const back = [
          { ...one, until: at(20) },
          { ...one, from: at(20), until: null },
        ];
        expect(mayOpen(some, back, lists, TODAY, at(20)).may).toBe(before.may);
      }),
    );
  });
});

describe("what members may do", () => {
  const MAY: MayOpen = { may: true, list: "a", since: at(1) };

  test.each<[MembersMay, MembersMay[]]>([
    ["view", ["view"]],
    ["comment", ["view", "comment"]],
    ["change", ["view", "comment", "change"]],
  ])("%s, and what stands before it", (membersMay, wanted) => {
    expect(MEMBERS_MAY.filter((what) => memberMay(MAY, membersMay, what, false))).toEqual(wanted);
  });

  test("is everything with what they put there, and nothing with what they may not open", () => {
    expect(MEMBERS_MAY.every((what) => memberMay(MAY, "view", what, true))).toBe(true);
    const left: MayOpen = { may: false, because: "left", until: at(2) };
    expect(MEMBERS_MAY.some((what) => memberMay(left, "change", what, true))).toBe(false);
  });
});

describe("how a file is sent", () => {
  test.each([
    ["Plan.PNG", "image/png", "picture"],
    ["song.mp3", "audio/mpeg", "sound"],
    ["act.webm", "video/webm", "film"],
    ["notes.md", "text/plain; charset=utf-8", "text"],
    ["paper.pdf", "application/pdf", "page"],
    ["page.html", "application/octet-stream", ""],
    ["drawing.svg", "application/octet-stream", ""],
    ["no ending", "application/octet-stream", ""],
    ["trick.png.exe", "application/octet-stream", ""],
    ["x.constructor", "application/octet-stream", ""],
  ])("%s", (name, type, shownAs) => {
    expect(fileType(name)).toEqual({ type, shownAs });
  });
});

describe("which part of a file is asked for", () => {
  test.each([
    [undefined, undefined],
    ["bytes=0-9", { first: 0, last: 9 }],
    ["bytes=90-", { first: 90, last: 99 }],
    ["bytes=-10", { first: 90, last: 99 }],
    ["bytes=-1000", { first: 0, last: 99 }],
    ["bytes=50-1000", { first: 50, last: 99 }],
    ["bytes=100-", "none"],
    ["bytes=-0", "none"],
    ["bytes=9-1", undefined],
    ["bytes=0-1,5-6", undefined],
    ["bytes=-", undefined],
    ["lines=0-1", undefined],
  ])("%s", (header, wanted) => {
    expect(byteRange(header, 100)).toEqual(wanted);
  });

  test("of an empty file is nothing", () => {
    expect(byteRange("bytes=0-", 0)).toBe("none");
  });
});

import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { byFamily, familyAnswer } from "./familyAnswer";
import { remindersDue } from "./remindersDue";
import { giveSeats, type Comer } from "./seats";
import { monthAfter, mondayOf, weeksFrom, weeksOfMonth } from "./weeks";
import { weekdayOf } from "./repeat";
import { addDays, instantOf, type When } from "./when";

const comers = fc
  .array(fc.record({ people: fc.integer({ min: 1, max: 6 }), hasPlace: fc.boolean() }), {
    maxLength: 20,
  })
  .map((all) => all.map((one, id): Comer => ({ id, ...one })));
const taken = (all: readonly Comer[], given: ReadonlySet<number>): number =>
  all.filter(({ id }) => given.has(id)).reduce((sum, { people }) => sum + people, 0);

describe("places", () => {
  test("are never given to more people than there are, nor taken from anybody who has one", () => {
    fc.assert(
      fc.property(comers, fc.integer({ min: 1, max: 40 }), (all, places) => {
        const given = giveSeats(all, places);
        const before = all.filter(({ hasPlace }) => hasPlace);
        for (const { id } of before) expect(given.has(id)).toBe(true);
        const had = taken(all, new Set(before.map(({ id }) => id)));
        expect(taken(all, given)).toBeLessThanOrEqual(Math.max(places, had));
      }),
    );
  });

  test("stay empty only where nobody who waits fits, and giving them again changes nothing", () => {
    fc.assert(
      fc.property(comers, fc.integer({ min: 1, max: 40 }), (all, places) => {
        const given = giveSeats(all, places);
        const free = places - taken(all, given);
        for (const { id, people } of all) if (!given.has(id)) expect(people).toBeGreaterThan(free);
        const after = all.map((one) => ({ ...one, hasPlace: given.has(one.id) }));
        expect(giveSeats(after, places)).toEqual(given);
      }),
    );
  });

  test("go to whoever said first that they come, of those who need as many", () => {
    const alike = (count: number): Comer[] =>
      Array.from({ length: count }, (_, id) => ({ id, people: 2, hasPlace: false }));
    expect([...giveSeats(alike(5), 7)]).toEqual([0, 1, 2]);
    expect(giveSeats(alike(5), null).size).toBe(5);
    expect(giveSeats([], 3).size).toBe(0);
  });
});

describe("a reminder", () => {
  const zone = "Europe/Berlin";
  const timed: When = { allDay: false, from: "2026-10-26T18:00", until: "2026-10-26T19:00", zone };
  const due = (when: When, before: number[], now: string) =>
    remindersDue([{ day: when.from.slice(0, 10), when }], before, zone, instantOf(now, zone));

  test.each([
    ["a minute too early", [1], "2026-10-25T17:59", undefined],
    [
      "a day before, at the time of day of the date, though the clocks changed",
      [1],
      "2026-10-25T18:00",
      "2026-10-25T18:00",
    ],
    ["the last of those that have passed", [7, 1], "2026-10-26T17:00", "2026-10-25T18:00"],
    ["the first while the second is still to come", [7, 1], "2026-10-25T12:00", "2026-10-19T18:00"],
    ["the morning of the day itself", [0], "2026-10-26T09:00", "2026-10-26T09:00"],
    ["none once it has begun", [1], "2026-10-26T18:00", undefined],
    ["none where nobody wants one", [], "2026-10-26T17:00", undefined],
  ])("is %s", (_, before, now, since) => {
    expect(due(timed, before, now).map((one) => one.since)).toEqual(
      since === undefined ? [] : [instantOf(since, zone)],
    );
  });

  test("of whole days comes in the morning, also on the day itself", () => {
    const days: When = { allDay: true, from: "2026-10-26", until: "2026-10-27" };
    expect(due(days, [1], "2026-10-25T08:59")).toEqual([]);
    expect(due(days, [1], "2026-10-25T09:00")).toHaveLength(1);
    expect(due(days, [0], "2026-10-26T09:30")).toHaveLength(1);
    expect(due(days, [0], "2026-10-27T09:30")).toEqual([]);
  });
});

describe("a family", () => {
  const said = (answer: "yes" | "no" | "maybe" | null, isWaiting = false) => ({
    answer,
    isWaiting,
  });
  test.each([
    ["comes where one of them comes", [said(null), said("yes"), said("no")], "yes"],
    ["waits where the one who wants to come waits", [said("yes", true), said("no")], "waiting"],
    ["comes though another of them waits", [said("yes", true), said("yes")], "yes"],
    ["may come", [said("no"), said("maybe"), said(null)], "maybe"],
    ["can't come where one says so and nobody else has answered", [said(null), said("no")], "no"],
    ["hasn't answered", [said(null), said(null)], null],
  ])("%s", (_, guests, expected) => {
    expect(familyAnswer(guests)).toBe(expected);
  });

  test("is told apart by its key; whoever has none is one of their own", () => {
    const guests = [
      { address: "a@oakmail.example", family: "f1" },
      { address: "b@oakmail.example", family: "" },
      { address: "c@oakmail.example", family: "f1" },
      { address: "d@oakmail.example", family: "" },
    ];
    expect([...byFamily(guests).values()].map((family) => family.length)).toEqual([2, 1, 1]);
  });
});

describe("weeks", () => {
  const days = fc.integer({ min: 0, max: 40_000 }).map((days_) => addDays("1990-01-01", days_));

  test("begin on the Monday on or before a day", () => {
    fc.assert(
      fc.property(days, (day) => {
        const monday = mondayOf(day);
        expect(weekdayOf(monday)).toBe("MO");
        expect(monday <= day && day < addDays(monday, 7)).toBe(true);
        expect(weeksFrom(day, 3)).toEqual([monday, addDays(monday, 7), addDays(monday, 14)]);
      }),
    );
  });

  test("of a month are those that have one of its days", () => {
    fc.assert(
      fc.property(days, (day) => {
        const month = day.slice(0, 7);
        const weeks = weeksOfMonth(day);
        for (const monday of weeks)
          expect([0, 6].some((more) => addDays(monday, more).startsWith(month))).toBe(true);
        expect(weeks.length).toBeGreaterThanOrEqual(4);
        expect(addDays(weeks[0] ?? "", 6).slice(0, 7)).toBe(month);
        expect(addDays(weeks.at(-1) ?? "", 7).startsWith(month)).toBe(false);
      }),
    );
  });

  test("months go on over the end of a year", () => {
    expect(monthAfter("2026-12-31", 1)).toBe("2027-01-01");
    expect(monthAfter("2027-01-15", -1)).toBe("2026-12-01");
  });
});

import fc from "fast-check";
import ICAL from "ical.js";
import { describe, expect, test } from "vitest";
import type { CalendarDate } from "./calendarDate";
import { readEvents, type ReadEvent } from "./readEvents";
import { occurrences, plannedDays, WEEKDAYS, weekdaysOf, type Repeat } from "./repeat";
import { addDays, onDay, type When } from "./when";
import { writeCalendar } from "./writeCalendar";

const ZONE = "Europe/Berlin";
const calendar = (...lines: string[]): string =>
  ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//Other//EN", ...lines, "END:VCALENDAR", ""].join(
    "\r\n",
  );
const event = (...lines: string[]): string =>
  calendar(
    "BEGIN:VEVENT",
    "UID:1@oakmail.example",
    "DTSTAMP:20261101T000000Z",
    ...lines,
    "END:VEVENT",
  );
const one = (text: string): ReadEvent => {
  const read = readEvents(text, ZONE);
  if (!read.ok || read.events[0] === undefined) throw new Error(JSON.stringify(read));
  return read.events[0];
};

describe("dates of other programs", () => {
  test.each<[string, string[], Partial<When>]>([
    [
      "in UTC are shown by the house's clocks",
      ["DTSTART:20261201T170000Z", "DTEND:20261201T180000Z"],
      { allDay: false, from: "2026-12-01T18:00", until: "2026-12-01T19:00" },
    ],
    [
      "in another zone, known by its name alone",
      ["DTSTART;TZID=Asia/Tokyo:20261201T090000", "DURATION:PT45M"],
      { from: "2026-12-01T01:00", until: "2026-12-01T01:45" },
    ],
    [
      "without a zone are meant by the house's clocks",
      ["DTSTART:20261201T090000", "DTEND:20261201T100000"],
      { from: "2026-12-01T09:00", until: "2026-12-01T10:00" },
    ],
    [
      "of a whole day end on that day",
      ["DTSTART;VALUE=DATE:20261201", "DTEND;VALUE=DATE:20261202"],
      { allDay: true, from: "2026-12-01", until: "2026-12-01" },
    ],
    [
      "of days end on the last of them",
      ["DTSTART;VALUE=DATE:20261201", "DTEND;VALUE=DATE:20261204"],
      { allDay: true, until: "2026-12-03" },
    ],
    [
      "of a day without an end",
      ["DTSTART;VALUE=DATE:20261201"],
      { allDay: true, until: "2026-12-01" },
    ],
    [
      "without an end are over as they begin",
      ["DTSTART:20261201T170000Z"],
      { from: "2026-12-01T18:00", until: "2026-12-01T18:00" },
    ],
    [
      "of days with a duration",
      ["DTSTART;VALUE=DATE:20261201", "DURATION:P2D"],
      { allDay: true, until: "2026-12-02" },
    ],
  ])("%s", (_, lines, expected) => {
    expect(one(event(...lines)).when).toMatchObject(expected);
  });

  test("are read with their texts, whatever is folded, escaped or missing", () => {
    const found = one(
      event(
        "DTSTART:20261201T170000Z",
        "SUMMARY:Away at\\, of all places\\; Ashf",
        " ord",
        "LOCATION:Hall 2\\nback door",
        "URL:https://meet.example/1",
        "ORGANIZER;CN=Coach:MAILTO:Ravi@Copperwheel.example",
      ),
    );
    expect(found).toMatchObject({
      title: "Away at, of all places; Ashford",
      place: "Hall 2\nback door",
      text: "",
      link: "https://meet.example/1",
      organiser: "ravi@copperwheel.example",
      isCancelled: false,
    });
  });

  test.each<[string, string, Repeat | undefined]>([
    [
      "FREQ=WEEKLY;UNTIL=20261222T225959Z",
      "20261201T170000Z",
      { every: "week", step: 1, days: [], until: "2026-12-22" },
    ],
    [
      "FREQ=WEEKLY;COUNT=3;BYDAY=TU,TH",
      "20261201T170000Z",
      { every: "week", step: 1, days: ["TU", "TH"], until: "2026-12-08" },
    ],
    [
      "FREQ=DAILY;COUNT=4",
      "20261201T170000Z",
      { every: "week", step: 1, days: [...WEEKDAYS], until: "2026-12-04" },
    ],
    [
      "FREQ=MONTHLY;BYDAY=1TU;UNTIL=20270301T000000Z",
      "20261201T170000Z",
      { every: "month by weekday", step: 1, until: "2027-03-01" },
    ],
    [
      "FREQ=MONTHLY;BYMONTHDAY=1;COUNT=2",
      "20261201T170000Z",
      { every: "month", step: 1, until: "2027-01-01" },
    ],
    ["FREQ=YEARLY;COUNT=2", "20261201T170000Z", { every: "month", step: 12, until: "2027-12-01" }],
    [
      "FREQ=WEEKLY",
      "20261201T170000Z",
      { every: "week", step: 1, days: [], until: addDays("2026-12-01", 1098) },
    ],
    ["FREQ=DAILY;INTERVAL=2;COUNT=4", "20261201T170000Z", undefined],
    ["FREQ=MONTHLY;BYDAY=-1TU", "20261201T170000Z", undefined],
    ["FREQ=WEEKLY;BYDAY=WE", "20261201T170000Z", undefined],
    ["FREQ=HOURLY;COUNT=3", "20261201T170000Z", undefined],
    ["FREQ=MONTHLY;BYMONTHDAY=1,15", "20261201T170000Z", undefined],
  ])("repeated by %s are repeated so, or named as what can't be kept", (rule, start, expected) => {
    const read = readEvents(event(`DTSTART:${start}`, "SUMMARY:Course", `RRULE:${rule}`), ZONE);
    if (!read.ok) throw new Error(read.fault);
    if (expected === undefined) expect(read).toMatchObject({ events: [], left: ["Course"] });
    else expect(read.events[0]?.repeat).toEqual(expected);
  });

  test("have times that were dropped and moved, also where the zone of those is another", () => {
    const found = one(
      calendar(
        "BEGIN:VEVENT",
        "UID:a",
        "DTSTART;TZID=Europe/Berlin:20261201T180000",
        "DTEND;TZID=Europe/Berlin:20261201T190000",
        "RRULE:FREQ=WEEKLY;COUNT=4",
        "EXDATE;TZID=Europe/Berlin:20261208T180000",
        "END:VEVENT",
        "BEGIN:VEVENT",
        "UID:a",
        "RECURRENCE-ID:20261215T170000Z",
        "DTSTART:20261216T090000Z",
        "DTEND:20261216T100000Z",
        "END:VEVENT",
        "BEGIN:VEVENT",
        "UID:a",
        "RECURRENCE-ID:20261222T170000Z",
        "DTSTART:20261222T170000Z",
        "STATUS:CANCELLED",
        "END:VEVENT",
      ),
    );
    expect(occurrences(found).map(({ when }) => when.from)).toEqual([
      "2026-12-01T18:00",
      "2026-12-16T10:00",
    ]);
  });

  test.each([
    ["", "broken"],
    ["BEGIN:VCALENDAR\r\nBEGIN:VEVENT", "broken"],
    ["<html>", "broken"],
    [calendar("BEGIN:VTODO", "UID:x", "END:VTODO"), "none"],
    [calendar(), "none"],
  ])("that aren't any are said to be so: %j", (text, fault) => {
    expect(readEvents(text, ZONE)).toEqual({ ok: false, fault });
  });

  test("come in several objects in one file, each without an id of its own, too", () => {
    const text = event("DTSTART:20261201T170000Z", "SUMMARY:A").replace(
      "UID:1@oakmail.example\r\n",
      "",
    );
    const read = readEvents(text + text.replace("SUMMARY:A", "SUMMARY:B"), ZONE);
    expect(read.ok && read.events.map(({ title }) => title)).toEqual(["A", "B"]);
  });
});

describe("a date that is written", () => {
  const days = fc.integer({ min: 0, max: 1500 }).map((day) => addDays("2026-01-01", day));
  const times = fc.tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }));
  const clock = ([hour, minute]: [number, number]): string =>
    `${String(hour).padStart(2, "0")}:${String(minute).padStart(2, "0")}`;
  const when = fc.oneof(
    fc
      .tuple(days, fc.integer({ min: 0, max: 5 }))
      .map(([day, more]): When => ({ allDay: true, from: day, until: addDays(day, more) })),
    fc.tuple(days, times, times).map(([day, one_, two]): When => {
      const [from = "", until = ""] = [clock(one_), clock(two)].sort();
      // In the night in which clocks change, a time may come twice or not at all.
      return {
        allDay: false,
        from: `${day}T1${from.slice(1)}`,
        until: `${day}T2${until.slice(1).replace(/^[4-9]/, "3")}`,
        zone: ZONE,
      };
    }),
  );
  const repeat = (first: When): fc.Arbitrary<Repeat | null> =>
    fc.oneof(
      fc.constant(null),
      fc.record({
        every: fc.constant("week" as const),
        step: fc.integer({ min: 1, max: 3 }),
        days: fc.subarray([...WEEKDAYS]),
        until: fc.constant(addDays(first.from.slice(0, 10), 60)),
      }),
      fc.record({
        every: fc.constantFrom("month" as const, "month by weekday" as const),
        step: fc.integer({ min: 1, max: 2 }),
        until: fc.constant(addDays(first.from.slice(0, 10), 300)),
      }),
    );
  const dates = when.chain((first) =>
    fc
      .record({
        uid: fc.uuid(),
        sequence: fc.nat(9),
        title: fc
          .string({ minLength: 1 })
          .map((text) => `T${text}`.replace(/[\p{Cc}\p{Cs}\\]/gu, "").trim()),
        text: fc.constant("Bring; shoes, please"),
        place: fc.constant("Mill Loft"),
        link: fc.constantFrom("", "https://meet.example/a?b=c"),
        when: fc.constant(first),
        repeat: repeat(first),
        picked: fc.array(fc.tuple(fc.nat(20), fc.boolean()), { maxLength: 3 }),
      })
      .map(({ picked, ...date }): CalendarDate => {
        const planned = plannedDays(date.when, date.repeat).slice(1);
        const changes = new Map(
          picked.flatMap(([index, isDropped]) => {
            const day = planned[index % Math.max(1, planned.length)];
            return day === undefined
              ? []
              : [[day, isDropped ? null : onDay(date.when, addDays(day, 1))] as const];
          }),
        );
        return { ...date, changes: [...changes].map(([day, to]) => ({ day, when: to })) };
      }),
  );

  test("is read as the same again, and by another reader at the same times", () => {
    fc.assert(
      fc.property(dates, (date) => {
        const text = writeCalendar([
          { date, changedAt: new Date("2026-11-01T00:00:00Z"), isCancelled: false },
        ]);
        const read = one(text);
        expect(occurrences(read)).toEqual(occurrences(date));
        expect(read).toMatchObject({
          uid: date.uid,
          sequence: date.sequence,
          title: date.title,
          text: date.text,
          link: date.link,
        });
        if (date.repeat?.every === "week" && read.repeat?.every === "week")
          expect(weekdaysOf(date.when.from.slice(0, 10), read.repeat.days)).toEqual(
            weekdaysOf(date.when.from.slice(0, 10), date.repeat.days),
          );
        const other = new ICAL.Component(ICAL.parse(text)).getAllSubcomponents("vevent");
        expect(other.length).toBe(1 + date.changes.filter((change) => change.when !== null).length);
      }),
    );
  });

  test("stands beside others in a calendar with its name, and each zone once", () => {
    const date: CalendarDate = {
      uid: "1",
      sequence: 0,
      title: "A",
      text: "",
      place: "",
      link: "",
      when: { allDay: false, from: "2026-12-01T18:00", until: "2026-12-01T19:00", zone: ZONE },
      repeat: null,
      changes: [],
    };
    const entry = { date, changedAt: new Date(0), isCancelled: false };
    const text = writeCalendar(
      [entry, { ...entry, date: { ...date, uid: "2" }, isCancelled: true }],
      "Trapeze Two; all, of it",
    );
    expect(text.match(/BEGIN:VTIMEZONE/g)).toHaveLength(1);
    expect(text).toContain("NAME:Trapeze Two\\; all\\, of it");
    const read = readEvents(text, ZONE);
    expect(read.ok && read.events.map(({ isCancelled }) => isCancelled)).toEqual([false, true]);
  });
});

import fc from "fast-check";
import ICAL from "ical.js";
import { DateTime } from "luxon";
import { afterEach, describe, expect, test } from "vitest";
import type { CalendarDate } from "./calendarDate";
import { readReply } from "./readReply";
import { occurrences, plannedDays, WEEKDAYS, weekdayOf, type Repeat } from "./repeat";
import { addDays, daysBetween, instantOf, momentAt, offsetAt, onDay, type When } from "./when";
import { writeInvitation, type Invitation } from "./writeInvitation";
import { clockChanges } from "./zoneRules";

// The other implementation remembers zones for the whole process.
afterEach(() => ICAL.TimezoneService.reset());

const LONDON = "Europe/London";
/** Zones whose clocks change on other days, by half an hour, at midnight, or never. */
const ZONES = [
  LONDON,
  "Europe/Berlin",
  "America/New_York",
  "Australia/Lord_Howe",
  "America/Santiago",
  "Africa/Cairo",
  "Asia/Kathmandu",
  "UTC",
];
const rehearsal: CalendarDate = {
  uid: "rehearsal-1@lists.copperwheel.example",
  sequence: 0,
  title: "Rehearsal, all acts; bring shoes",
  text: "Doors at 17:30.\nPlease be on time.",
  place: "Mill Loft",
  link: "",
  when: { allDay: false, from: "2026-12-01T18:00", until: "2026-12-01T19:30", zone: LONDON },
  repeat: null,
  changes: [],
};
const invitation: Invitation = {
  method: "REQUEST",
  date: rehearsal,
  organiser: { name: "Trapeze Two, guardians", address: "ml-trapeze2@lists.copperwheel.example" },
  guest: { name: 'Otto "Ottl" Brandt', address: "otto@lettr.example" },
  now: new Date("2026-11-29T08:00:00Z"),
};

const moment = fc
  .date({ min: new Date("2024-01-01"), max: new Date("2029-12-31"), noInvalidDate: true })
  .map((date) => date.toISOString().slice(0, 16));
const zone = fc.constantFrom(...ZONES);
const day = moment.map((at) => at.slice(0, 10));

describe("clocks", () => {
  test.each([
    ["2026-12-01T18:00", LONDON, "2026-12-01T18:00:00.000Z"],
    ["2026-07-01T18:00", LONDON, "2026-07-01T17:00:00.000Z"],
    // 01:30 is left out on that night: the clocks before the change say when it is.
    ["2027-03-28T01:30", LONDON, "2027-03-28T01:30:00.000Z"],
    // 01:30 comes twice: the first is meant.
    ["2026-10-25T01:30", LONDON, "2026-10-25T00:30:00.000Z"],
    ["2026-12-01T18:00", "Asia/Kathmandu", "2026-12-01T12:15:00.000Z"],
  ])("show %s in %s at %s", (at, where, instant) => {
    expect(instantOf(at, where).toISOString()).toBe(instant);
  });

  test("show at every instant what another implementation says", () => {
    fc.assert(
      fc.property(moment, zone, (at, where) => {
        const instant = new Date(`${at}Z`);
        const other = DateTime.fromJSDate(instant, { zone: where });
        expect(momentAt(instant, where)).toBe(other.toFormat("yyyy-MM-dd'T'HH:mm"));
        expect(offsetAt(where, instant.getTime())).toBe(other.offset);
      }),
    );
  });

  test("show a moment again at its instant, unless a change leaves it out", () => {
    fc.assert(
      fc.property(moment, zone, (at, where) => {
        const shown = momentAt(instantOf(at, where), where);
        const isLeftOut =
          DateTime.fromISO(at, { zone: where }).toFormat("yyyy-MM-dd'T'HH:mm") !== at;
        if (!isLeftOut) expect(shown).toBe(at);
        else expect(shown > at).toBe(true);
      }),
    );
  });

  test("change as their zone's rules say, told by what they show before", () => {
    const year = clockChanges(LONDON, new Date("2026-12-01"), new Date("2027-12-01"));
    expect(year).toEqual([
      { kind: "STANDARD", at: "2026-10-25T02:00", from: 60, to: 0, name: "GMT" },
      { kind: "DAYLIGHT", at: "2027-03-28T01:00", from: 0, to: 60, name: "BST" },
      { kind: "STANDARD", at: "2027-10-31T02:00", from: 60, to: 0, name: "GMT" },
    ]);
    expect(clockChanges("Asia/Kathmandu", new Date("2026-12-01"), new Date("2027-12-01"))).toEqual([
      { kind: "STANDARD", at: "1970-01-01T00:00", from: 345, to: 345, name: expect.any(String) },
    ]);
  });
});

describe("days", () => {
  test("are counted on and back", () => {
    expect(addDays("2026-12-31", 1)).toBe("2027-01-01");
    expect(addDays("2028-03-01", -1)).toBe("2028-02-29");
    expect(daysBetween("2026-10-24", "2026-10-26")).toBe(2);
    expect(weekdayOf("2026-11-29")).toBe("SU");
    fc.assert(
      fc.property(day, fc.integer({ min: -900, max: 900 }), (from, days) => {
        expect(daysBetween(from, addDays(from, days))).toBe(days);
      }),
    );
  });

  test("something that goes past midnight still does on another day", () => {
    const party: When = {
      allDay: false,
      from: "2026-12-31T20:00",
      until: "2027-01-01T01:00",
      zone: LONDON,
    };
    expect(onDay(party, "2027-02-28")).toMatchObject({
      from: "2027-02-28T20:00",
      until: "2027-03-01T01:00",
    });
  });
});

const weekly: Repeat = { every: "week", step: 1, days: ["TU", "TH"], until: "2026-12-17" };

describe("a repeated date", () => {
  test.each<[string, string, Repeat, string[]]>([
    [
      "twice a week",
      "2026-12-01",
      weekly,
      ["2026-12-01", "2026-12-03", "2026-12-08", "2026-12-10", "2026-12-15", "2026-12-17"],
    ],
    [
      "every second week, on the weekday of its first day too, though the rule names another",
      "2026-12-02",
      { every: "week", step: 2, days: ["MO"], until: "2027-01-20" },
      [
        "2026-12-02",
        "2026-12-14",
        "2026-12-16",
        "2026-12-28",
        "2026-12-30",
        "2027-01-11",
        "2027-01-13",
      ],
    ],
    [
      "on the last day of a month, where there is such a day",
      "2027-01-31",
      { every: "month", step: 1, until: "2027-06-30" },
      ["2027-01-31", "2027-03-31", "2027-05-31"],
    ],
    [
      "on the first Tuesday",
      "2026-12-01",
      { every: "month by weekday", step: 1, until: "2027-03-31" },
      ["2026-12-01", "2027-01-05", "2027-02-02", "2027-03-02"],
    ],
    [
      "on the fifth Sunday, where there is one",
      "2026-11-29",
      { every: "month by weekday", step: 1, until: "2027-06-30" },
      ["2026-11-29", "2027-01-31", "2027-05-30"],
    ],
    [
      "on its first weekday where none is named",
      "2026-12-01",
      { ...weekly, days: [], until: "2026-12-10" },
      ["2026-12-01", "2026-12-08"],
    ],
    ["until before it begins", "2026-12-01", { ...weekly, until: "2026-11-01" }, ["2026-12-01"]],
  ])("is %s", (_what, first, repeat, days) => {
    expect(plannedDays({ allDay: true, from: first, until: first }, repeat)).toEqual(days);
  });

  test("loses single dates and moves others, and is in the order in which it happens", () => {
    const moved: When = {
      allDay: false,
      from: "2026-12-20T10:00",
      until: "2026-12-20T11:00",
      zone: LONDON,
    };
    const times = occurrences({
      when: rehearsal.when,
      repeat: weekly,
      changes: [
        { day: "2026-12-03", when: null },
        { day: "2026-12-08", when: moved },
        { day: "2026-12-09", when: moved },
      ],
    });
    expect(times.map(({ day: planned, when }) => [planned, when.from])).toEqual([
      ["2026-12-01", "2026-12-01T18:00"],
      ["2026-12-10", "2026-12-10T18:00"],
      ["2026-12-15", "2026-12-15T18:00"],
      ["2026-12-17", "2026-12-17T18:00"],
      ["2026-12-08", "2026-12-20T10:00"],
    ]);
  });

  test("is never endless", () => {
    const days = plannedDays(rehearsal.when, {
      every: "week",
      step: 1,
      days: WEEKDAYS,
      until: "9999-12-31",
    });
    expect(days.length).toBeLessThan(1200);
  });
});

const repeats: fc.Arbitrary<Repeat | null> = fc.oneof(
  fc.constant(null),
  fc.record({
    every: fc.constant("week" as const),
    step: fc.integer({ min: 1, max: 4 }),
    days: fc.subarray([...WEEKDAYS], { minLength: 1 }),
    until: fc.constant("2027-08-31"),
  }),
  fc.record({
    every: fc.constantFrom("month" as const, "month by weekday" as const),
    step: fc.integer({ min: 1, max: 3 }),
    until: fc.constant("2027-08-31"),
  }),
);
const dates: fc.Arbitrary<CalendarDate> = fc
  .record({
    from: fc.integer({ min: 0, max: 250 }).map((days) => addDays("2026-09-01", days)),
    // Not while clocks change: the other implementation takes the second of a moment that comes twice.
    hour: fc.integer({ min: 5, max: 23 }),
    hours: fc.integer({ min: 0, max: 30 }),
    allDay: fc.boolean(),
    zone,
    repeat: repeats,
    title: fc.string({ unit: "grapheme", minLength: 1, maxLength: 120 }),
    text: fc.string({ maxLength: 400 }),
  })
  .map(({ from, hour, hours, allDay, zone: where, repeat, title, text }): CalendarDate => {
    const begin = `${from}T${String(hour).padStart(2, "0")}:15`;
    const end = new Date(Date.parse(`${begin}Z`) + hours * 3_600_000).toISOString().slice(0, 16);
    return {
      ...rehearsal,
      title,
      text,
      repeat,
      when: allDay
        ? { allDay, from, until: end.slice(0, 10) }
        : { allDay, from: begin, until: end, zone: where },
    };
  });

function parsed(text: string): ICAL.Component {
  return new ICAL.Component(ICAL.parse(text));
}

/** When another implementation says that an object's event happens, by its rule and the zone that comes along. */
/** The other implementation sometimes takes the second of two moments that a change of clocks makes alike; meant is the first (RFC 5545, section 3.3.5). */
function firstOf(at: Date, zone: string): Date {
  const earlier = DateTime.fromJSDate(at, { zone }).minus({ hours: 1 });
  return earlier.toFormat("HH:mm") === DateTime.fromJSDate(at, { zone }).toFormat("HH:mm")
    ? earlier.toJSDate()
    : at;
}

function times(calendar: ICAL.Component): Date[] {
  ICAL.TimezoneService.reset();
  for (const part of calendar.getAllSubcomponents("vtimezone"))
    ICAL.TimezoneService.register(new ICAL.Timezone(part));
  const [whole] = calendar.getAllSubcomponents("vevent");
  const event = new ICAL.Event(whole);
  const found: Date[] = [];
  if (!event.isRecurring()) return [event.startDate.toJSDate()];
  const all = event.iterator();
  for (let next = all.next(); next !== undefined && next !== null; next = all.next())
    found.push(next.toJSDate());
  return found;
}

describe("an invitation", () => {
  test("is a request for one guest alone, with what they need", () => {
    const calendar = parsed(writeInvitation(invitation));
    expect(calendar.getFirstPropertyValue("method")).toBe("REQUEST");
    const [event] = calendar.getAllSubcomponents("vevent");
    expect(event?.getFirstPropertyValue("summary")).toBe(rehearsal.title);
    expect(event?.getFirstPropertyValue("description")).toBe(rehearsal.text);
    expect(event?.getFirstPropertyValue("location")).toBe("Mill Loft");
    expect(event?.getFirstProperty("url")).toBeNull();
    expect(event?.getFirstPropertyValue("organizer")).toBe(
      "mailto:ml-trapeze2@lists.copperwheel.example",
    );
    const guests = event?.getAllProperties("attendee") ?? [];
    expect(guests.map((one) => one.getFirstValue())).toEqual(["mailto:otto@lettr.example"]);
    expect(guests[0]?.getParameter("partstat")).toBe("NEEDS-ACTION");
    expect(guests[0]?.getParameter("cn")).toBe("Otto  Ottl  Brandt");
  });

  test.each([
    ["yes", "ACCEPTED"],
    ["no", "DECLINED"],
    ["maybe", "TENTATIVE"],
  ] as const)("that is sent again keeps the answer %s", (answer, says) => {
    const [event] = parsed(writeInvitation({ ...invitation, answer })).getAllSubcomponents(
      "vevent",
    );
    expect(event?.getFirstProperty("attendee")?.getParameter("partstat")).toBe(says);
  });

  test("that is called off says so", () => {
    const text = writeInvitation({ ...invitation, method: "CANCEL" });
    expect(text).toContain("METHOD:CANCEL");
    expect(text).toContain("STATUS:CANCELLED");
  });

  test.each([
    ["Asia/Kathmandu", "TZOFFSETTO:+0545"],
    ["America/St_Johns", "TZOFFSETTO:-0330"],
  ])("tells the clocks of %s as they are", (zone, line) => {
    const when: When = { ...rehearsal.when, allDay: false, zone };
    expect(writeInvitation({ ...invitation, date: { ...rehearsal, when } })).toContain(line);
  });

  test("to whole days ends on the day after the last", () => {
    const text = writeInvitation({
      ...invitation,
      date: { ...rehearsal, when: { allDay: true, from: "2026-12-24", until: "2026-12-26" } },
    });
    expect(text).toContain("DTSTART;VALUE=DATE:20261224");
    expect(text).toContain("DTEND;VALUE=DATE:20261227");
    expect(text).not.toContain("VTIMEZONE");
  });

  test("to a series tells which of its dates are dropped and moved", () => {
    const text = writeInvitation({
      ...invitation,
      date: {
        ...rehearsal,
        repeat: weekly,
        changes: [
          { day: "2026-12-03", when: null },
          {
            day: "2026-12-08",
            when: {
              allDay: false,
              from: "2026-12-09T18:00",
              until: "2026-12-09T19:00",
              zone: LONDON,
            },
          },
        ],
      },
    });
    expect(text).toContain("RRULE:FREQ=WEEKLY;");
    expect(text).toContain(`EXDATE;TZID=${LONDON}:20261203T180000`);
    expect(text).toContain(`RECURRENCE-ID;TZID=${LONDON}:20261208T180000`);
    expect(text).toContain(`DTSTART;TZID=${LONDON}:20261209T180000`);
  });

  test("happens in another implementation when it happens here, whatever the zone, the rule and the clocks", () => {
    fc.assert(
      fc.property(dates, (date) => {
        const calendar = parsed(writeInvitation({ ...invitation, date }));
        const ours = occurrences(date).map(({ when }) =>
          when.allDay ? when.from : instantOf(when.from, when.zone).toISOString(),
        );
        const { when } = date;
        const theirs = times(calendar).map((at) =>
          when.allDay ? DateTime.fromJSDate(at).toISODate() : firstOf(at, when.zone).toISOString(),
        );
        expect(theirs).toEqual(ours);
      }),
    );
  });

  test("says what was written, in lines that every program can read", () => {
    fc.assert(
      fc.property(dates, (date) => {
        const text = writeInvitation({ ...invitation, date });
        for (const line of text.split("\r\n"))
          expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
        expect(text.endsWith("END:VCALENDAR\r\n")).toBe(true);
        const [event] = parsed(text).getAllSubcomponents("vevent");
        expect(event?.getFirstPropertyValue("summary")).toBe(date.title);
      }),
    );
  });

  test.each(["Tea\r\nATTENDEE:mailto:mallory@evil.example", "Tea\nEND:VEVENT\nBEGIN:VEVENT"])(
    "can't be given lines of its own by a title: %j",
    (title) => {
      const calendar = parsed(writeInvitation({ ...invitation, date: { ...rehearsal, title } }));
      const events = calendar.getAllSubcomponents("vevent");
      expect(events).toHaveLength(1);
      expect(events[0]?.getAllProperties("attendee")).toHaveLength(1);
    },
  );
});

/** Answers as several kinds of programs write them. */
const reply = (lines: readonly string[], ending = "\r\n"): string =>
  ["BEGIN:VCALENDAR", ...lines, "END:VCALENDAR", ""].join(ending);
const event = (...lines: readonly string[]): string[] => ["BEGIN:VEVENT", ...lines, "END:VEVENT"];

describe("the answer of a calendar program", () => {
  test.each<[string, string, unknown]>([
    [
      "with everything in it",
      reply([
        "VERSION:2.0",
        "METHOD:REPLY",
        ...event(
          "UID:rehearsal-1@lists.copperwheel.example",
          "SEQUENCE:2",
          "DTSTAMP:20261129T080000Z",
          "ATTENDEE;CN=Otto Brandt;PARTSTAT=ACCEPTED:mailto:Otto@Lettr.example",
          "COMMENT:See you\\, then",
        ),
      ]),
      {
        uid: "rehearsal-1@lists.copperwheel.example",
        sequence: 2,
        guest: "otto@lettr.example",
        answer: "yes",
        word: "See you, then",
      },
    ],
    [
      "with folded lines and a quoted name",
      reply([
        "METHOD:REPLY",
        ...event(
          "UID:rehearsal-1@lists.cop",
          " perwheel.example",
          'ATTENDEE;CN="Brandt, Otto";PARTSTAT=DECL',
          " INED:MAILTO:otto@lettr.example",
        ),
      ]),
      { answer: "no", guest: "otto@lettr.example", uid: "rehearsal-1@lists.copperwheel.example" },
    ],
    [
      "with bare line feeds and small letters",
      reply(
        ["method:reply", ...event("uid:u", "attendee;partstat=tentative:mailto:a@oakmail.example")],
        "\n",
      ),
      { answer: "maybe", guest: "a@oakmail.example" },
    ],
    [
      "about one date of a series",
      reply([
        "METHOD:REPLY",
        ...event(
          "UID:u",
          "RECURRENCE-ID:20261208T180000Z",
          "ATTENDEE;PARTSTAT=DECLINED:mailto:a@oakmail.example",
        ),
      ]),
      { day: "2026-12-08", answer: "no" },
    ],
    [
      "that hasn't decided",
      reply([
        "METHOD:REPLY",
        ...event("UID:u", "ATTENDEE;PARTSTAT=NEEDS-ACTION:mailto:a@oakmail.example"),
      ]),
      { answer: undefined },
    ],
    [
      "that proposes another time, by the name of a zone alone",
      reply([
        "METHOD:COUNTER",
        ...event(
          "UID:u",
          "DTSTART;TZID=Europe/Berlin:20261202T190000",
          "DTEND;TZID=Europe/Berlin:20261202T200000",
          "ATTENDEE;PARTSTAT=TENTATIVE:mailto:a@oakmail.example",
        ),
      ]),
      {
        proposes: {
          allDay: false,
          from: "2026-12-02T18:00",
          until: "2026-12-02T19:00",
          zone: LONDON,
        },
      },
    ],
    [
      "that proposes whole days",
      reply([
        "METHOD:COUNTER",
        ...event(
          "UID:u",
          "DTSTART;VALUE=DATE:20261202",
          "DTEND;VALUE=DATE:20261204",
          "ATTENDEE:mailto:a@oakmail.example",
        ),
      ]),
      { proposes: { allDay: true, from: "2026-12-02", until: "2026-12-03" } },
    ],
  ])("%s is understood", (_what, text, wanted) => {
    const read = readReply(text, LONDON);
    expect(read).toMatchObject({ ok: true, reply: wanted });
  });

  test.each([
    ["an invitation", writeInvitation(invitation), "none"],
    ["nothing", "", "broken"],
    ["no calendar", "Dear Juno, we come. Otto", "broken"],
    ["nobody's answer", reply(["METHOD:REPLY", ...event("UID:u")]), "broken"],
    [
      "an answer to nothing",
      reply(["METHOD:REPLY", ...event("ATTENDEE:mailto:a@b.example")]),
      "broken",
    ],
    ["a calendar without an event", reply(["METHOD:REPLY"]), "none"],
    ["something endless", `BEGIN:VCALENDAR\r\nX:${"x".repeat(300_000)}`, "broken"],
  ])("%s is none", (_what, text, fault) => {
    expect(readReply(text, LONDON)).toEqual({ ok: false, fault });
  });

  test("never fails, whatever comes in", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        expect(readReply(text, LONDON).ok).toBe(false);
      }),
    );
  });
});

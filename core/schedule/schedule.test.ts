import { describe, expect, test } from "vitest";
import { dayIn, instantAtEndOf } from "./dayIn";
import { nextReading } from "./nextReading";
import { scheduleInWords as scheduleInWordsUnsaid, type Schedule } from "./schedule";
import { spoken } from "../testing/spoken";

const scheduleInWords = spoken(scheduleInWordsUnsaid);

const LONDON = "Europe/London";
const times = (days: number[], ...at: string[]): Schedule => ({ when: "times", days, times: at });
const EVERY = [1, 2, 3, 4, 5, 6, 7];

describe("when a source is read next", () => {
  test.each<[string, Schedule | null, "watched" | "web", string, string | undefined]>([
    [
      "later today",
      times(EVERY, "07:30"),
      "web",
      "2026-11-23T06:00:00Z",
      "2026-11-23T07:30:00.000Z",
    ],
    [
      "tomorrow, once the time is past",
      times(EVERY, "07:30"),
      "web",
      "2026-11-23T07:30:00Z",
      "2026-11-24T07:30:00.000Z",
    ],
    [
      "at the next of two times",
      times(EVERY, "16:00", "07:30"),
      "watched",
      "2026-11-23T09:00:00Z",
      "2026-11-23T16:00:00.000Z",
    ],
    [
      "on the next of its days",
      times([2, 4], "07:30"),
      "web",
      "2026-11-24T08:00:00Z",
      "2026-11-26T07:30:00.000Z",
    ],
    ["on a Sunday", times([7], "07:30"), "web", "2026-11-23T08:00:00Z", "2026-11-29T07:30:00.000Z"],
    [
      "an hour earlier in UTC while summer time lasts",
      times(EVERY, "07:30"),
      "web",
      "2026-07-01T00:00:00Z",
      "2026-07-01T06:30:00.000Z",
    ],
    [
      "though the clocks leave its time out",
      times(EVERY, "01:30"),
      "web",
      "2027-03-28T00:00:00Z",
      "2027-03-28T01:30:00.000Z",
    ],
    [
      "in a minute, for a watched file",
      { when: "changed" },
      "watched",
      "2026-11-23T09:00:00Z",
      "2026-11-23T09:01:00.000Z",
    ],
    [
      "in a quarter of an hour, for a web address",
      { when: "changed" },
      "web",
      "2026-11-23T09:00:00Z",
      "2026-11-23T09:15:00.000Z",
    ],
    ["never, without a schedule", null, "web", "2026-11-23T09:00:00Z", undefined],
  ])("%s", (_what, schedule, kind, after, wanted) =>
    expect(nextReading(schedule, kind, new Date(after), LONDON)?.toISOString()).toBe(wanted),
  );

  test.each<[Schedule | null, string]>([
    [null, "when somebody imports it"],
    [{ when: "changed" }, "when it changes"],
    [times(EVERY, "07:30"), "every day at 07:30"],
    [times([1, 2, 3, 4, 5], "07:30"), "Monday to Friday at 07:30"],
    [times([4, 2], "16:00", "07:30"), "Tuesday and Thursday at 07:30 and 16:00"],
  ])("%j in words: %s", (schedule, words) => expect(scheduleInWords(schedule)).toBe(words));
});

describe("days on the house's clocks", () => {
  test.each([
    ["2026-11-23T23:59:00Z", LONDON, "2026-11-23"],
    ["2026-07-01T23:30:00Z", LONDON, "2026-07-02"],
    ["2026-11-23T02:00:00Z", "America/New_York", "2026-11-22"],
  ])("%s in %s is %s", (instant, zone, day) => expect(dayIn(zone, new Date(instant))).toBe(day));

  test.each([
    ["2026-11-23", LONDON, "2026-11-23T23:59:59.999Z"],
    ["2026-07-01", LONDON, "2026-07-01T22:59:59.999Z"],
    ["2026-10-25", LONDON, "2026-10-25T23:59:59.999Z"],
    ["2027-03-28", LONDON, "2027-03-28T22:59:59.999Z"],
    ["2026-11-22", "America/New_York", "2026-11-23T04:59:59.999Z"],
    ["2026-11-23", "UTC", "2026-11-23T23:59:59.999Z"],
    // The clocks change between this day's end and that of UTC's.
    ["2026-09-26", "Pacific/Auckland", "2026-09-26T11:59:59.999Z"],
    ["2027-04-03", "Pacific/Auckland", "2027-04-03T10:59:59.999Z"],
    // Midnight is left out: the clocks go from 23:59 to 01:00.
    ["2023-09-02", "America/Santiago", "2023-09-03T03:59:59.999Z"],
  ])("%s ends in %s at %s", (day, zone, instant) =>
    expect(instantAtEndOf(day, zone).toISOString()).toBe(instant),
  );
});

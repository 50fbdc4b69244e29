import { expect, test } from "vitest";
import { dayAndTimeOf, dayOf, moment, readDay, readDayAndTime } from "./time";

const NOW = new Date("2026-11-23T08:00:00Z");

test.each([
  ["2026-11-23T07:30:00Z", "Europe/London", "today 07:30"],
  ["2026-11-22T23:30:00Z", "Europe/London", "22 Nov 23:30"],
  ["2026-11-22T23:30:00Z", "Europe/Berlin", "today 00:30"],
  ["2026-09-14T06:05:00Z", "Europe/London", "14 Sept 07:05"],
  ["2025-11-23T07:30:00Z", "UTC", "23 Nov 2025 07:30"],
])("%s in %s is %s", (iso, zone, wanted) => {
  expect(moment(iso, zone, NOW)).toBe(wanted);
});

test.each([
  ["3/9/2027", "en-GB", "2027-09-03"],
  ["3/9/2027", "en-US", "2027-03-09"],
  ["3.9.27", "de-DE", "2027-09-03"],
  ["3. September 2027", "de-DE", "2027-09-03"],
  ["Sep 3, 2027", "en-US", "2027-09-03"],
  ["2027-09-03", "sv-SE", "2027-09-03"],
  ["3 septembre 2027", "fr-FR", "2027-09-03"],
])("%s is read in %s as %s", (typed, locale, wanted) => {
  expect(readDay(typed, { from: "2026-11-28" }, locale)).toBe(wanted);
});

test.each(["", "soon", "31/2/2027", "12", "2027", "31 Foo 2027"])("%j is no day", (typed) => {
  expect(readDay(typed)).toBeUndefined();
});

test("a day without a year is the next one, or the last one where only the past counts", () => {
  expect(readDay("31 July", { from: "2026-11-28" })).toBe("2027-07-31");
  expect(readDay("29 Nov", { from: "2026-11-28" })).toBe("2026-11-29");
  expect(readDay("28 Nov", { from: "2026-11-28" })).toBe("2026-11-28");
  expect(readDay("29 Nov", { until: "2026-11-28" })).toBe("2025-11-29");
  expect(readDay("3 Jan", { until: "2026-11-28" })).toBe("2026-01-03");
});

test("what is written in a house's way is read again as the same day and time", () => {
  for (const locale of ["en-GB", "en-US", "de-DE", "fr-FR", "es-ES", "pl-PL", "cs-CZ", "nl-NL"])
    for (const day of ["2027-07-31", "2027-03-04", "2028-02-29", "2027-12-01"]) {
      expect(readDay(dayOf(day, locale), { from: "2026-11-28" }, locale)).toBe(day);
      const at = `${day}T08:05`;
      expect(readDayAndTime(dayAndTimeOf(at, locale), locale)).toBe(at);
    }
});

import { expect, test } from "vitest";
import { LANGUAGES, localeOf } from "@amigo/core/text/place";
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

test.each([
  ...LANGUAGES.map((language) => localeOf({ language, country: "" })),
  ...["en-US", "en-CA", "fr-CA", "pt-BR", "de-AT", "ar-EG", "ar-SA", "es-MX", "sv-FI"],
])("what is written in the way of %s is read again as the same day and time", (locale) => {
  for (let month = 1; month <= 12; month++) {
    const day = `2027-${String(month).padStart(2, "0")}-09`;
    expect(readDay(dayOf(day, locale), { from: "2026-11-28" }, locale)).toBe(day);
    for (const time of ["08:05", "16:30", "00:15"]) {
      const at = `${day}T${time}`;
      expect(readDayAndTime(dayAndTimeOf(at, locale), locale)).toBe(at);
    }
  }
});

test.each(["31.07.2027", "31 July 2027", "2027-07-31", ""])("%j has no time of day", (typed) => {
  expect(readDayAndTime(typed, "de-DE")).toBeUndefined();
});

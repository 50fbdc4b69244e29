import { expect, test } from "vitest";
import { moment } from "./time";

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

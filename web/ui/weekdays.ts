import { houseLocale } from "./time";

/** A Monday. */
const MONDAY = Date.UTC(2026, 10, 30);

/** The days of the week from Monday on, as the house's language calls them. */
export function weekdays(width: "long" | "short"): string[] {
  const format = new Intl.DateTimeFormat(houseLocale(), { weekday: width, timeZone: "UTC" });
  return [0, 1, 2, 3, 4, 5, 6].map((day) => format.format(MONDAY + day * 86_400_000));
}

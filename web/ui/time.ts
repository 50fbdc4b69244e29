/** The locale by which dates are written: the house's language as its country has it. Set once it is known who is signed in. */
let ownLocale = "en-GB";

/** Writes dates as a house does, from now on. */
export function writeDatesAs(own: string): void {
  ownLocale = own;
}

/** A moment as the house sees it: `today 07:30`, `16 Nov 07:30`, `16 Nov 2025 07:30`. */
export function moment(
  iso: string,
  timeZone: string,
  now = new Date(),
  locale = ownLocale,
): string {
  const at = new Date(iso);
  const day = (date: Date): string =>
    date.toLocaleDateString(locale, { timeZone, year: "numeric", month: "short", day: "numeric" });
  const time = at.toLocaleTimeString(locale, { timeZone, hour: "2-digit", minute: "2-digit" });
  if (day(at) === day(now)) return `today ${time}`;
  const sameYear =
    at.toLocaleDateString(locale, { timeZone, year: "numeric" }) ===
    now.toLocaleDateString(locale, { timeZone, year: "numeric" });
  return `${at.toLocaleDateString(locale, { timeZone, day: "numeric", month: "short", ...(sameYear ? {} : { year: "numeric" }) })} ${time}`;
}

/** A calendar date, given as `YYYY-MM-DD`, as people write it: `31 Jul 2027`. */
export function dayOf(date: string, locale = ownLocale): string {
  return new Date(`${date}T00:00:00Z`).toLocaleDateString(locale, {
    timeZone: "UTC",
    day: "numeric",
    month: "short",
    year: "numeric",
  });
}

/** The calendar date on the house's clocks, as `YYYY-MM-DD`. */
export function today(timeZone: string, now = new Date()): string {
  return now.toLocaleDateString("sv-SE", { timeZone });
}

/** Until when an old address usually goes on working: the end of July next year, as a calendar date. */
export function usualLastDay(timeZone: string): string {
  return `${Number(today(timeZone).slice(0, 4)) + 1}-07-31`;
}

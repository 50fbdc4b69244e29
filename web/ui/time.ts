/** A moment as the house sees it: `today 07:30`, `16 Nov 07:30`, `16 Nov 2025 07:30`. */
export function moment(iso: string, timeZone: string, now = new Date()): string {
  const at = new Date(iso);
  const day = (date: Date): string =>
    date.toLocaleDateString("en-GB", { timeZone, year: "numeric", month: "short", day: "numeric" });
  const time = at.toLocaleTimeString("en-GB", { timeZone, hour: "2-digit", minute: "2-digit" });
  if (day(at) === day(now)) return `today ${time}`;
  const sameYear =
    at.toLocaleDateString("en-GB", { timeZone, year: "numeric" }) ===
    now.toLocaleDateString("en-GB", { timeZone, year: "numeric" });
  return `${at.toLocaleDateString("en-GB", { timeZone, day: "numeric", month: "short", ...(sameYear ? {} : { year: "numeric" }) })} ${time}`;
}

/** The calendar date on the house's clocks, as `YYYY-MM-DD`. */
export function today(timeZone: string, now = new Date()): string {
  return now.toLocaleDateString("sv-SE", { timeZone });
}

/** Until when an old address usually goes on working: the end of July next year, as a calendar date. */
export function usualLastDay(timeZone: string): string {
  return `${Number(today(timeZone).slice(0, 4)) + 1}-07-31`;
}

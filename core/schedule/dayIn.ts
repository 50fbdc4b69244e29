import { addDays, instantOf } from "../calendar/when";

/** The calendar date of an instant on the clocks of a time zone, as `YYYY-MM-DD`. */
export function dayIn(timeZone: string, instant: Date): string {
  return new Intl.DateTimeFormat("sv-SE", {
    timeZone,
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
  }).format(instant);
}

/** The last instant of a calendar date on the clocks of a time zone. */
export function instantAtEndOf(day: string, timeZone: string): Date {
  return new Date(instantOf(`${addDays(day, 1)}T00:00`, timeZone).getTime() - 1);
}

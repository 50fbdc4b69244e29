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
  const midnight = Date.parse(`${day}T00:00:00Z`) + 86_400_000;
  // The zone's distance from UTC, taken near the day's end; a second look serves the nights on which clocks change.
  let instant = midnight;
  for (let turn = 0; turn < 2; turn++) instant = midnight - distance(timeZone, new Date(instant));
  return new Date(instant - 1);
}

function distance(timeZone: string, instant: Date): number {
  const parts = new Intl.DateTimeFormat("sv-SE", {
    timeZone,
    dateStyle: "short",
    timeStyle: "medium",
  }).format(instant);
  return Date.parse(`${parts.replace(" ", "T")}Z`) - Math.floor(instant.getTime() / 1000) * 1000;
}

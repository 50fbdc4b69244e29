/**
 * When something is. Days are calendar dates (`YYYY-MM-DD`), moments are what the clocks of a time zone show
 * (`YYYY-MM-DDTHH:MM`). The last day of a date of whole days is part of it.
 */
export type When =
  | { allDay: true; from: string; until: string }
  | { allDay: false; from: string; until: string; zone: string };

/** Returns the day on which something begins. */
export function firstDay({ from }: When): string {
  return from.slice(0, 10);
}

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;

/** Returns how many minutes the clocks of a time zone are ahead of UTC at an instant. */
export function offsetAt(zone: string, instant: number): number {
  const parts = clockOf(zone).formatToParts(instant);
  const of = (type: Intl.DateTimeFormatPartTypes): number =>
    Number(parts.find((part) => part.type === type)?.value);
  const shown = Date.UTC(of("year"), of("month") - 1, of("day"), of("hour"), of("minute"));
  return Math.round((shown - Math.floor(instant / MINUTE) * MINUTE) / MINUTE);
}

const CLOCKS = new Map<string, Intl.DateTimeFormat>();

function clockOf(zone: string): Intl.DateTimeFormat {
  let clock = CLOCKS.get(zone);
  if (clock === undefined) {
    clock = new Intl.DateTimeFormat("en-US", {
      timeZone: zone,
      calendar: "gregory",
      hourCycle: "h23",
      year: "numeric",
      month: "numeric",
      day: "numeric",
      hour: "numeric",
      minute: "numeric",
    });
    CLOCKS.set(zone, clock);
  }
  return clock;
}

/**
 * Returns the instant at which clocks show a moment. A moment that a change of clocks leaves out is taken by the clocks
 * before the change, one that comes twice is the first of both (RFC 5545, section 3.3.5).
 */
export function instantOf(moment: string, zone: string): Date {
  const shown = Date.parse(`${moment}Z`);
  const [before, after] = [offsetAt(zone, shown - DAY), offsetAt(zone, shown + DAY)];
  // By the clocks before a change first: those are meant for a moment that comes twice, and for one that is left out.
  for (const offset of [before, after]) {
    const instant = shown - offset * MINUTE;
    if (offsetAt(zone, instant) === offset) return new Date(instant);
  }
  return new Date(shown - before * MINUTE);
}

/** Returns what the clocks of a time zone show at an instant. */
export function momentAt(instant: Date, zone: string): string {
  const shown = instant.getTime() + offsetAt(zone, instant.getTime()) * MINUTE;
  return new Date(shown).toISOString().slice(0, 16);
}

/** Returns the day that is a number of days after another. */
export function addDays(day: string, days: number): string {
  return new Date(Date.parse(`${day}T00:00:00Z`) + days * DAY).toISOString().slice(0, 10);
}

/** Returns how many days lie between two days. */
export function daysBetween(from: string, until: string): number {
  return Math.round((Date.parse(`${until}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / DAY);
}

/** Moves something to begin on another day, at the same time of the day and for as long on the clocks. */
export function onDay(when: When, day: string): When {
  const days = daysBetween(firstDay(when), day);
  const move = (at: string): string => `${addDays(at.slice(0, 10), days)}${at.slice(10)}`;
  return { ...when, from: move(when.from), until: move(when.until) };
}

/** Whether it ends before it begins, which nothing can. */
export function endsTooEarly(when: When): boolean {
  return when.until < when.from;
}

import { addDays, daysBetween, firstDay, onDay, type When } from "./when";

/** Weekdays as RFC 5545 writes them (section 3.3.10), from Monday on. */
export const WEEKDAYS = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"] as const;
export type Weekday = (typeof WEEKDAYS)[number];

/** How something is repeated, until its last day at most. */
export type Repeat =
  | { every: "week"; step: number; days: readonly Weekday[]; until: string }
  /** On the same day of the month; months without such a day are left out. */
  | { every: "month"; step: number; until: string }
  /** On the same weekday of the month, as on its second Tuesday; months without such a day are left out. */
  | { every: "month by weekday"; step: number; until: string };

/** What was changed of one of several dates, by the day on which it was to be: another time, or nothing at all. */
export interface SingleChange {
  day: string;
  when: When | null;
}

/** Something that happens once or several times. */
export interface Repeated {
  when: When;
  repeat: Repeat | null;
  changes: readonly SingleChange[];
}

/** One time of something that may be repeated: when it is, and the day on which it was planned. */
export interface Occurrence {
  day: string;
  when: When;
}

/** A date that is repeated every day for three years has fewer. */
const MOST = 1100;

/** Returns all times of something, in the order in which they are; what was dropped isn't among them. */
export function occurrences({ when, repeat, changes }: Repeated): Occurrence[] {
  const changed = new Map(changes.map(({ day, when: to }) => [day, to]));
  return plannedDays(when, repeat)
    .flatMap((day): Occurrence[] => {
      const to = changed.get(day);
      return to === null ? [] : [{ day, when: to ?? onDay(when, day) }];
    })
    .sort((a, b) => (a.when.from < b.when.from ? -1 : a.when.from > b.when.from ? 1 : 0));
}

/** Returns the days on which something is planned, in their order. The first day is always one of them. */
export function plannedDays(when: When, repeat: Repeat | null): string[] {
  const first = firstDay(when);
  if (repeat === null) return [first];
  const days = new Set([first]);
  for (const day of daysOf(first, repeat)) {
    if (day > repeat.until || days.size >= MOST) break;
    if (day >= first) days.add(day);
  }
  return [...days];
}

/** Returns the weekdays of a weekly rule from Monday on: that of its first day is always one of them. */
export function weekdaysOf(first: string, days: readonly Weekday[]): Weekday[] {
  return WEEKDAYS.filter((weekday) => days.includes(weekday) || weekday === weekdayOf(first));
}

/** Returns the weekday of a day. */
export function weekdayOf(day: string): Weekday {
  return WEEKDAYS[daysBetween("1970-01-05", day) % 7] ?? WEEKDAYS[0];
}

function* daysOf(first: string, repeat: Repeat): Generator<string> {
  if (repeat.every === "week") yield* daysOfWeeks(first, repeat);
  else yield* daysOfMonths(first, repeat);
}

function* daysOfWeeks(
  first: string,
  { step, days }: Extract<Repeat, { every: "week" }>,
): Generator<string> {
  const monday = addDays(first, -WEEKDAYS.indexOf(weekdayOf(first)));
  const wanted = weekdaysOf(first, days).map((weekday) => WEEKDAYS.indexOf(weekday));
  for (let week = 0; ; week += step)
    for (const index of wanted) yield addDays(monday, week * 7 + index);
}

function* daysOfMonths(
  first: string,
  { every, step, until }: Exclude<Repeat, { every: "week" }>,
): Generator<string> {
  const [year = 0, month = 0, date = 0] = first.split("-").map(Number);
  const weekday = weekdayOf(first);
  for (let turn = 0; ; turn += step) {
    const months = month - 1 + turn;
    const begin = new Date(Date.UTC(year, months, 1)).toISOString().slice(0, 10);
    if (begin > until) return;
    const day =
      every === "month" ? addDays(begin, date - 1) : nthOf(begin, weekday, Math.ceil(date / 7));
    if (day.slice(0, 7) === begin.slice(0, 7)) yield day;
  }
}

/** The day that is a month's nth of a weekday; one in the next month where it has fewer. */
function nthOf(begin: string, weekday: Weekday, nth: number): string {
  const ahead = (WEEKDAYS.indexOf(weekday) - WEEKDAYS.indexOf(weekdayOf(begin)) + 7) % 7;
  return addDays(begin, ahead + (nth - 1) * 7);
}

import { WEEKDAYS, weekdayOf } from "./repeat";
import { addDays } from "./when";

/** Returns the Monday of the week in which a day is. */
export function mondayOf(day: string): string {
  return addDays(day, -WEEKDAYS.indexOf(weekdayOf(day)));
}

/** Returns the Mondays of some weeks, from the week of a day on. */
export function weeksFrom(day: string, count: number): string[] {
  const monday = mondayOf(day);
  return Array.from({ length: count }, (_, week) => addDays(monday, week * 7));
}

/** Returns the Mondays of all weeks that have a day of a month. */
export function weeksOfMonth(day: string): string[] {
  const first = mondayOf(`${day.slice(0, 7)}-01`);
  const weeks = [first];
  for (let monday = addDays(first, 7); monday < monthAfter(day, 1); monday = addDays(monday, 7))
    weeks.push(monday);
  return weeks;
}

/** Returns the first day of the month that is some months after that of a day. */
export function monthAfter(day: string, months: number): string {
  const [year = 0, month = 1] = day.split("-").map(Number);
  return new Date(Date.UTC(year, month - 1 + months, 1)).toISOString().slice(0, 10);
}

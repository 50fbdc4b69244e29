import type { SeasonTerm } from "@amigo/contract/dates";
import { addDays } from "@amigo/core/calendar/when";

/** Whether a week's days from Monday to Friday are all holidays. */
export function isHolidayWeek(terms: readonly SeasonTerm[], monday: string): boolean {
  return [0, 1, 2, 3, 4].every((days) => isHoliday(terms, addDays(monday, days)));
}

/** Whether a day is in the holidays. */
export function isHoliday(terms: readonly SeasonTerm[], day: string): boolean {
  return terms.some(
    ({ kind, firstDay, lastDay }) => kind === "holidays" && firstDay <= day && day <= lastDay,
  );
}

/** The names of the holidays that take one of a week's days from Monday to Friday, and of the terms that begin in it. */
export function termNames(terms: readonly SeasonTerm[], monday: string): string[] {
  const [friday, sunday] = [addDays(monday, 4), addDays(monday, 6)];
  return terms
    .filter(({ kind, firstDay, lastDay }) =>
      kind === "holidays"
        ? firstDay <= friday && lastDay >= monday
        : firstDay >= monday && firstDay <= sunday,
    )
    .map(({ name }) => name);
}

import type { Occurrence } from "./repeat";
import { addDays, firstDay, instantOf } from "./when";

/** When in the morning somebody is reminded of something that takes whole days. */
const MORNING = "09:00";

/** How many days before a date a guest can choose to be reminded, in place of what the date has. */
export const GUEST_REMINDERS = [1, 3, 7] as const;

/** A reminder that is due: of which time of a date, and since when. */
export interface ReminderDue {
  /** The day on which that time was planned. */
  day: string;
  since: Date;
}

/**
 * Returns the reminders that are due now: for each time of a date that hasn't begun, the last of its reminders whose moment has
 * come. A reminder some days before comes at the time of day at which the date begins, for whole days in the morning.
 *
 * @param times  the times of a date
 * @param before how many days before each somebody wants to be reminded; 0 is the morning of the day itself
 * @param zone   the house's time zone
 */
export function remindersDue(
  times: readonly Occurrence[],
  before: readonly number[],
  zone: string,
  now: Date,
): ReminderDue[] {
  return times.flatMap(({ day, when }): ReminderDue[] => {
    const begins = when.allDay ? `${when.from}T00:00` : when.from;
    if (instantOf(begins, zone) <= now && !when.allDay) return [];
    if (when.allDay && instantOf(`${when.from}T23:59`, zone) <= now) return [];
    const moments = before
      .map((days) => {
        const clock = when.allDay || days === 0 ? MORNING : when.from.slice(11);
        return instantOf(`${addDays(firstDay(when), -days)}T${clock}`, zone);
      })
      .filter((moment) => moment <= now)
      .sort((a, b) => b.getTime() - a.getTime());
    return moments[0] === undefined ? [] : [{ day, since: moments[0] }];
  });
}

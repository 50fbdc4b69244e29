import { day, message, type Message } from "@amigo/language/message";
import type { When } from "./when";

/** Says when something is: a day, days, or a day with its times. */
export function whenInWords({ allDay, from, until }: When): Message {
  const [first, last] = [from.slice(0, 10), until.slice(0, 10)];
  if (allDay)
    return first === last
      ? message("calendar.onDay", { day: day(first) })
      : message("calendar.fromDayToDay", { from: day(first), until: day(last) });
  const [begins, ends] = [from.slice(11), until.slice(11)];
  return first === last
    ? message("calendar.onDayFromTo", { day: day(first), begins, ends })
    : message("calendar.fromMomentToMoment", { from: day(first), begins, until: day(last), ends });
}

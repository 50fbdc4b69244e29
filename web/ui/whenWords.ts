import type { DateWhen } from "@amigo/contract/dates";
import { t } from "../texts/ui";
import { dayOf, houseLocale } from "./time";

/** Says when something is, as people write it: `1 Dec 2026, 18:00 to 19:30`. */
export function whenWords({ allDay, from, until }: DateWhen): string {
  const [first, last] = [dayOf(from.slice(0, 10)), dayOf(until.slice(0, 10))];
  if (allDay) return first === last ? first : t("ui.fromTo", { from: first, until: last });
  const [begins, ends] = [timeOf(from), timeOf(until)];
  return first === last
    ? t("ui.onDayFromTo", { day: first, begins, ends })
    : t("ui.fromTo", { from: `${first}, ${begins}`, until: `${last}, ${ends}` });
}

/** Returns the time of a moment as the house writes it: `18:00`. */
export function timeOf(moment: string): string {
  return new Date(`${moment}:00Z`).toLocaleTimeString(houseLocale(), {
    timeZone: "UTC",
    hour: "2-digit",
    minute: "2-digit",
  });
}

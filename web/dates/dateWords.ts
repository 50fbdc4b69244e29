import type { DateRepeat, DateWhen } from "@amigo/contract/dates";
import { t } from "../texts/dates";
import { dayOf, houseLocale, shortDayOf } from "../ui/time";
import { timeOf } from "../ui/whenWords";

/** Says shortly when something begins: `Wed 2 Dec 12:15`. */
export function shortWhen({ allDay, from }: DateWhen): string {
  const day = `${weekdayWord(from)} ${shortDayOf(from.slice(0, 10))}`;
  return allDay ? day : `${day} ${timeOf(from)}`;
}

/** Returns the month of a day with its year: `December 2026`. */
export function monthOf(day: string): string {
  return new Date(`${day.slice(0, 10)}T00:00:00Z`).toLocaleDateString(houseLocale(), {
    timeZone: "UTC",
    month: "long",
    year: "numeric",
  });
}

/** Returns the short name of a day's weekday: `Tue`. */
export function weekdayWord(day: string): string {
  return new Date(`${day.slice(0, 10)}T00:00:00Z`).toLocaleDateString(houseLocale(), {
    timeZone: "UTC",
    weekday: "short",
  });
}

/** Says how something is repeated; empty where it isn't. */
export function repeatWords(repeat: DateRepeat): string {
  if (repeat === null) return "";
  const until = dayOf(repeat.until);
  if (repeat.every === "week") return t("dates.everyWeekUntil", { step: repeat.step, until });
  return repeat.every === "month"
    ? t("dates.everyMonthUntil", { step: repeat.step, until })
    : t("dates.everyMonthByWeekdayUntil", { step: repeat.step, until });
}

/** How a date can be repeated, by what stands in the form. */
export const REPEATS = ["never", "week", "two weeks", "month", "month by weekday"] as const;
export type RepeatChoice = (typeof REPEATS)[number];

/** Returns the choice that a repetition is shown as. */
export function repeatChoice(repeat: DateRepeat): RepeatChoice {
  if (repeat === null) return "never";
  return repeat.every === "week" ? (repeat.step === 2 ? "two weeks" : "week") : repeat.every;
}

/** Returns the repetition that a choice means. */
export function repeatOf(choice: RepeatChoice, until: string): DateRepeat {
  switch (choice) {
    case "never":
      return null;
    case "week":
    case "two weeks":
      return { every: "week", step: choice === "week" ? 1 : 2, days: [], until };
    case "month":
    case "month by weekday":
      return { every: choice, step: 1, until };
  }
}

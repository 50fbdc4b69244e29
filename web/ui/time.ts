import { hasTime, readMoment, type DateOrder } from "@amigo/core/dates/readMoment";
import { t } from "../texts/ui";

/** The locale by which dates are written: the house's language as its country has it. Set once it is known who is signed in. */
let ownLocale = "en-GB";

/** Writes dates as a house does, from now on. */
export function writeDatesAs(text: string): void {
  ownLocale = text;
}

/** The locale by which the house writes dates and numbers, and sorts. */
export function houseLocale(): string {
  return ownLocale;
}

/** A moment as the house sees it: `today 07:30`, `16 Nov 07:30`, `16 Nov 2025 07:30`. */
export function moment(
  iso: string,
  timeZone: string,
  now = new Date(),
  locale = ownLocale,
): string {
  const at = new Date(iso);
  const day = (date: Date): string =>
    date.toLocaleDateString(locale, { timeZone, year: "numeric", month: "short", day: "numeric" });
  const time = at.toLocaleTimeString(locale, { timeZone, hour: "2-digit", minute: "2-digit" });
  if (day(at) === day(now)) return t("ui.today", { time });
  const sameYear =
    at.toLocaleDateString(locale, { timeZone, year: "numeric" }) ===
    now.toLocaleDateString(locale, { timeZone, year: "numeric" });
  return `${at.toLocaleDateString(locale, { timeZone, day: "numeric", month: "short", ...(sameYear ? {} : { year: "numeric" }) })} ${time}`;
}

/** A calendar date, given as `YYYY-MM-DD`, as people write it: `31 Jul 2027`. */
export function dayOf(date: string, locale = ownLocale): string {
  return new Date(`${date}T00:00:00Z`).toLocaleDateString(locale, {
    timeZone: "UTC",
    day: "numeric",
    month: "short",
    year: "numeric",
  });
}

/** A calendar date without its year: `31 Jul`. */
export function shortDayOf(date: string, locale = ownLocale): string {
  return new Date(`${date}T00:00:00Z`).toLocaleDateString(locale, {
    timeZone: "UTC",
    day: "numeric",
    month: "short",
  });
}

/** A day and time on the house's clocks, given as `YYYY-MM-DDTHH:mm`, as people write it: `31 Jul 2027, 16:30`. */
export function dayAndTimeOf(text: string, locale = ownLocale): string {
  return new Date(`${text}:00Z`).toLocaleString(locale, {
    timeZone: "UTC",
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  });
}

/** Whether a locale writes the day before the month where both are numbers. */
function orderOf(locale: string): DateOrder {
  const parts = new Intl.DateTimeFormat(locale, { timeZone: "UTC" }).formatToParts(0);
  const at = (type: string): number => parts.findIndex((part) => part.type === type);
  return at("day") < at("month") ? "day first" : "month first";
}

const readIn = (text: string, firstYear: number, locale: string): string | undefined =>
  readMoment(text, { order: orderOf(locale), timeZone: "UTC", firstYear });

/**
 * Reads a calendar date as somebody types it in the house's order: `31/7/2027`, `31 July`, `2027-07-31`. A date without
 * a year is the first one from `from` on, or, where only `until` is given, the last one until then.
 *
 * @param within the days, as `YYYY-MM-DD`, between which it lies; without any it starts today
 * @returns the date as `YYYY-MM-DD`, undefined for what is no date
 */
export function readDay(
  text: string,
  { from = "", until = "" }: { from?: string; until?: string } = {},
  locale = ownLocale,
): string | undefined {
  const near = from || until || new Date().toISOString().slice(0, 10);
  const year = Number(near.slice(0, 4));
  const found = [year - 2, year - 1, year, year + 1].flatMap(
    (first) => readIn(text, first, locale)?.slice(0, 10) ?? [],
  );
  return from === "" && until !== ""
    ? (found.findLast((day) => day <= until) ?? found[0])
    : (found.find((day) => day >= near) ?? found.at(-1));
}

/** Reads a day and time as somebody types it; the date as `readDay` does. Returns `YYYY-MM-DDTHH:mm`, undefined without a time. */
export function readDayAndTime(text: string, locale = ownLocale): string | undefined {
  const day = readDay(text, {}, locale);
  const time = readIn(text, 2000, locale)?.slice(10, 16);
  return day === undefined || time === undefined || !hasTime(text, orderOf(locale))
    ? undefined
    : `${day}${time}`;
}

/** The calendar date on the house's clocks, as `YYYY-MM-DD`. */
export function today(timeZone: string, now = new Date()): string {
  return now.toLocaleDateString("sv-SE", { timeZone });
}

/** Until when an old address usually goes on working: the end of July next year, as a calendar date. */
export function usualLastDay(timeZone: string): string {
  return `${Number(today(timeZone).slice(0, 4)) + 1}-07-31`;
}

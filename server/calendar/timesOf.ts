import type { DateWhen } from "@amigo/contract/dates";
import {
  occurrences,
  type Repeat,
  type Repeated,
  type SingleChange,
} from "@amigo/core/calendar/repeat";
import { addDays, endsTooEarly, instantOf, type When } from "@amigo/core/calendar/when";
import { refused, type Refused } from "../refused";
import { t } from "../texts/t";
import type { DateRow } from "./dateQueries";

/** How far ahead a repeated date may go, in days. */
const FARTHEST = 3 * 366;

export type Times = Pick<DateRow, "when" | "firstAt" | "lastAt">;

/** When a date is, by the house's clocks; refused where it can't be then. */
export function timesOf(
  { when: wanted, repeat }: { when: DateWhen; repeat: Repeat | null },
  zone: string,
  changes: readonly SingleChange[] = [],
): Times | Refused {
  const when: When = wanted.allDay ? wanted : { ...wanted, zone };
  if (endsTooEarly(when)) return refused(422, "date/end", t("dates.itEndsBeforeItBegins"), "when");
  const first = when.from.slice(0, 10);
  if (repeat !== null && (repeat.until < first || repeat.until > addDays(first, FARTHEST)))
    return refused(422, "date/repeat", t("dates.repeatedUntilWhen"), "repeat");
  return { when, ...spanOf({ when, repeat, changes }, zone) };
}

/** When the first time of a date begins, and when its last one ends. */
export function spanOf(date: Repeated, zone: string): Pick<Times, "firstAt" | "lastAt"> {
  const all = occurrences(date).map(({ when }) => when);
  const instant = (at: string, time: string): Date =>
    instantOf(at.length === 10 ? `${at}T${time}` : at, zone);
  const begins = all.map(({ from }) => from).sort();
  const ends = all.map(({ until }) => until).sort();
  return {
    firstAt: instant(begins[0] ?? date.when.from, "00:00"),
    lastAt: instant(ends.at(-1) ?? date.when.until, "23:59"),
  };
}

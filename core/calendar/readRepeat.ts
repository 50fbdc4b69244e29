import ICAL from "ical.js";
import { timeIn } from "./eventTime";
import { plannedDays, WEEKDAYS, weekdayOf, type Repeat, type Weekday } from "./repeat";
import { addDays, firstDay, type When } from "./when";

/** For how long a date is repeated that has no end, in days. */
const FARTHEST = 3 * 366;

/**
 * Reads how an event is repeated (RFC 5545, section 3.3.10): daily, weekly, monthly and yearly, as Amigo can repeat dates.
 *
 * @returns null where it isn't repeated, undefined where it is repeated in another manner
 */
export function readRepeat(
  event: ICAL.Component,
  when: When,
  zone: string,
): Repeat | null | undefined {
  const rules = event.getAllProperties("rrule");
  const [property] = rules;
  if (property === undefined) return null;
  const rule: unknown = property.getFirstValue();
  if (!(rule instanceof ICAL.Recur) || rules.length > 1) return undefined;
  const farthest = addDays(firstDay(when), FARTHEST);
  const told = rule.until === null ? undefined : timeIn(property, rule.until, zone)?.slice(0, 10);
  const until = told === undefined || told > farthest ? farthest : told;
  const repeat = byFrequency(rule, when, until);
  if (repeat === undefined || rule.count === null) return repeat;
  const last = plannedDays(when, repeat)[rule.count - 1];
  return last === undefined ? repeat : { ...repeat, until: last };
}

function byFrequency(rule: ICAL.Recur, when: When, until: string): Repeat | undefined {
  const first = firstDay(when);
  const parts = partsOf(rule);
  const step = Math.max(1, rule.interval);
  const days = parts.get("BYDAY") ?? [];
  switch (rule.freq) {
    case "DAILY":
      // Every day is every week on all of its days; every second day isn't anything that is kept.
      return step === 1 && only(parts)
        ? { every: "week", step: 1, days: [...WEEKDAYS], until }
        : undefined;
    case "WEEKLY": {
      const known = days.filter((day): day is Weekday => WEEKDAYS.includes(day as Weekday));
      const fits = known.length === days.length && only(parts, "BYDAY");
      // A rule whose first day is none of its weekdays would have one day more by ours.
      return fits && step <= 12 && (known.length === 0 || known.includes(weekdayOf(first)))
        ? { every: "week", step, days: known, until }
        : undefined;
    }
    case "MONTHLY":
      return step > 12 ? undefined : monthly(parts, first, step, until);
    case "YEARLY":
      return step === 1 && only(parts, "BYMONTH", "BYMONTHDAY") && onItsDay(parts, first)
        ? { every: "month", step: 12, until }
        : undefined;
    default:
      return undefined;
  }
}

function monthly(
  parts: ReadonlyMap<string, readonly string[]>,
  first: string,
  step: number,
  until: string,
): Repeat | undefined {
  const nth = `${Math.ceil(Number(first.slice(8)) / 7)}${weekdayOf(first)}`;
  const [day, another] = parts.get("BYDAY") ?? [];
  if (day === undefined)
    return only(parts, "BYMONTHDAY") && onItsDay(parts, first)
      ? { every: "month", step, until }
      : undefined;
  return only(parts, "BYDAY") && another === undefined && day.replace("+", "") === nth
    ? { every: "month by weekday", step, until }
    : undefined;
}

/** Whether a rule's month and day of the month, where it names them, are those of its first day. */
function onItsDay(parts: ReadonlyMap<string, readonly string[]>, first: string): boolean {
  const is = (name: string, wanted: string): boolean => {
    const values = parts.get(name) ?? [wanted];
    return values.length === 1 && Number(values[0]) === Number(wanted);
  };
  return is("BYMONTHDAY", first.slice(8)) && is("BYMONTH", first.slice(5, 7));
}

function partsOf(rule: ICAL.Recur): Map<string, string[]> {
  return new Map(
    Object.entries(rule.parts as Record<string, unknown>).map(([name, values]) => [
      name,
      (Array.isArray(values) ? values : [values]).map(String),
    ]),
  );
}

function only(parts: ReadonlyMap<string, unknown>, ...names: string[]): boolean {
  return [...parts.keys()].every((name) => names.includes(name));
}

import { monthNames } from "./monthNames";

/** Whether `03/09` is the third of September or the ninth of March. */
export type DateOrder = "day first" | "month first";

/** What is needed to read dates that leave something out. */
export interface DateSetting {
  order: DateOrder;
  /** By whose clocks a time without a zone is meant, as an IANA name. */
  timeZone: string;
  /** The first year of the school year in which a date without a year lies: 2026 for 2026-27. */
  firstYear: number;
}

/** A date as it is written, taken apart. Months count from 1; `year` is undefined where none is written. */
interface Written {
  year: number | undefined;
  month: number;
  day: number;
  hour: number;
  minute: number;
  second: number;
  /** Whether a time of day is written. */
  timed: boolean;
  /** Minutes east of Greenwich, undefined where no zone is written. */
  zone: number | undefined;
}

/** The three numbers of a date whose order its own form doesn't tell: `03/09/2026`. */
const NUMERIC = /^(\d{1,2})[/.-] ?(\d{1,2})(?:[/.-] ?(\d{4}|\d{2})?)?(?![\d/.-])/;
const YEAR_FIRST = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?!\d)/;
const DAY_AND_NAME =
  /^(\d{1,2})(?:st|nd|rd|th|\.|º)?[ -]+(?:de |of )?(\p{L}+)\.?,?(?: de)?[ -]*(\d{4})?/u;
const NAME_AND_DAY = /^(\p{L}+)\.? (\d{1,2})(?:st|nd|rd|th)?(?:,? (\d{4}))?(?!\d)/u;
const TIME =
  /(\d{1,2})(?:[:.]|\s?h\s?)(\d{2})(?:[:.](\d{2})(?:[.,]\d+)?)?\s*([ap]\.?\s?m\b\.?|[صم](?!\p{L}))?/iu;
const ZONE = /(?:(?:gmt|utc)\s*)?([+-])(\d{1,2}):?(\d{2})?\s*(?:\(.*\))?$|\b(gmt|utc)\b|\dz$/i;
/** The halves of the day by their first letter: am and pm, in Arabic ص and م. */
const HALVES: Readonly<Record<string, "a" | "p">> = { a: "a", p: "p", ص: "a", م: "p" };
/** Days since the end of 1899, as spreadsheets count them; those of 1982 to 2119. */
const SERIAL = /^([3-7]\d{4})(?:[.,](\d+))?$/;
const LONGEST = 60;

/**
 * Reads one written date, with a time or without: ISO 8601, numbers with dots, slashes or dashes, months by name,
 * 12-hour clocks, offsets from Greenwich, a spreadsheet's own count of days.
 *
 * @returns the instant in ISO 8601, in UTC with milliseconds, so that instants compare as texts; undefined for what is no date
 */
export function readMoment(text: string, setting: DateSetting): string | undefined {
  const written = takeApart(text, setting.order);
  if (written === undefined) return undefined;
  const { month, day, hour, minute, second, zone } = written;
  const year = written.year ?? (month >= 8 ? setting.firstYear : setting.firstYear + 1);
  const local = Date.UTC(year, month - 1, day, hour, minute, second);
  const check = new Date(local);
  if (check.getUTCMonth() !== month - 1 || check.getUTCDate() !== day || hour > 24 || minute > 59)
    return undefined;
  const instant =
    zone === undefined ? local - offsetIn(setting.timeZone, local) : local - zone * 60_000;
  return new Date(instant).toISOString();
}

/** Returns whether a date is written with a time of day. */
export function hasTime(text: string, order: DateOrder): boolean {
  return takeApart(text, order)?.timed === true;
}

function takeApart(raw: string, order: DateOrder): Written | undefined {
  const text = raw
    .normalize("NFKC")
    .replace(/[\u0660-\u0669]/g, (digit) => String(digit.charCodeAt(0) - 0x0660))
    .replace(/[\u200e\u200f\u061c]/g, "")
    .trim()
    .replace(/\s+/g, " ");
  if (text === "" || text.length > LONGEST) return undefined;
  const serial = SERIAL.exec(text);
  if (serial !== null) return fromSerial(Number(text.replace(",", ".")));
  const date =
    dateIn(text.replace(/^\p{L}+\.?,? (?=\d|\p{L}+\.? \d{1,2})/u, ""), order) ??
    dateIn(text, order);
  if (date === undefined) return undefined;
  const { rest, ...day } = date;
  const time = TIME.exec(rest);
  const zone = time === null ? undefined : zoneIn(rest.slice(time.index + time[0].length), rest);
  const half = HALVES[(time?.[4] ?? "").toLowerCase().slice(0, 1)] ?? "";
  const written = Number(time?.[1] ?? 0);
  return {
    ...day,
    timed: time !== null,
    hour: half === "" ? written : (written % 12) + (half === "p" ? 12 : 0),
    minute: Number(time?.[2] ?? 0),
    second: Number(time?.[3] ?? 0),
    zone,
  };
}

type DateAndRest = Pick<Written, "year" | "month" | "day"> & { rest: string };

function dateIn(text: string, order: DateOrder): DateAndRest | undefined {
  const iso = YEAR_FIRST.exec(text);
  if (iso !== null)
    return dated(Number(iso[1]), Number(iso[2]), Number(iso[3]), text.slice(iso[0].length));
  const numeric = NUMERIC.exec(text);
  if (numeric !== null) {
    const [first, second] = [Number(numeric[1]), Number(numeric[2])];
    const [day, month] =
      (order === "month first" && first <= 12) || second > 12 ? [second, first] : [first, second];
    return dated(wholeYear(numeric[3]), month, day, text.slice(numeric[0].length));
  }
  const named = DAY_AND_NAME.exec(text);
  const month = named === null ? undefined : monthOf(named[2]);
  if (named !== null && month !== undefined)
    return dated(wholeYear(named[3]), month, Number(named[1]), text.slice(named[0].length));
  const american = NAME_AND_DAY.exec(text);
  const first = american === null ? undefined : monthOf(american[1]);
  if (american === null || first === undefined) return undefined;
  return dated(wholeYear(american[3]), first, Number(american[2]), text.slice(american[0].length));
}

function dated(
  year: number | undefined,
  month: number,
  day: number,
  rest: string,
): DateAndRest | undefined {
  return month < 1 || month > 12 || day < 1 || day > 31 ? undefined : { year, month, day, rest };
}

function wholeYear(text: string | undefined): number | undefined {
  if (text === undefined || text === "") return undefined;
  return text.length === 4 ? Number(text) : 2000 + Number(text);
}

function monthOf(name: string | undefined): number | undefined {
  return name === undefined
    ? undefined
    : monthNames().get(
        name
          .normalize("NFKD")
          .replace(/\p{M}+/gu, "")
          .toLowerCase(),
      );
}

function zoneIn(afterTime: string, whole: string): number | undefined {
  const found = ZONE.exec(afterTime.trim()) ?? (/\dz$/i.test(whole) ? ["z"] : null);
  if (found === null) return undefined;
  const [, sign, hours, minutes] = found;
  if (sign === undefined) return 0;
  return (Number(hours) * 60 + Number(minutes ?? 0)) * (sign === "-" ? -1 : 1);
}

function fromSerial(days: number): Written {
  const at = new Date(Math.round((days - 25_569) * 86_400) * 1000);
  return {
    year: at.getUTCFullYear(),
    month: at.getUTCMonth() + 1,
    day: at.getUTCDate(),
    hour: at.getUTCHours(),
    minute: at.getUTCMinutes(),
    second: at.getUTCSeconds(),
    timed: !Number.isInteger(days),
    zone: undefined,
  };
}

const CLOCKS = new Map<string, Intl.DateTimeFormat>();

/** How far the clocks of a zone are ahead of Greenwich, in milliseconds, when they show a local time. */
function offsetIn(timeZone: string, local: number): number {
  const first = offsetAt(timeZone, local);
  const second = offsetAt(timeZone, local - first);
  return second;
}

function offsetAt(timeZone: string, instant: number): number {
  if (timeZone === "UTC") return 0;
  let clock = CLOCKS.get(timeZone);
  if (clock === undefined) {
    clock = new Intl.DateTimeFormat("en-GB", {
      timeZone,
      hourCycle: "h23",
      year: "numeric",
      month: "numeric",
      day: "numeric",
      hour: "numeric",
      minute: "numeric",
      second: "numeric",
    });
    CLOCKS.set(timeZone, clock);
  }
  const parts = new Map(
    clock.formatToParts(instant).map(({ type, value }) => [type, Number(value)]),
  );
  const part = (type: Intl.DateTimeFormatPartTypes): number => parts.get(type) ?? 0;
  const shown = Date.UTC(
    part("year"),
    part("month") - 1,
    part("day"),
    part("hour"),
    part("minute"),
    part("second"),
  );
  return shown - Math.floor(instant / 1000) * 1000;
}

/**
 * Reads a calendar date as people in the house write it: `2027-03-31`, or day, month, year with dots, slashes or spaces. A day
 * without a year is the next one to come.
 *
 * @param today a calendar date
 * @returns the date as `YYYY-MM-DD`, or undefined where it is none
 */
export function readDay(written: string, today: string): string | undefined {
  const text = written.trim();
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text);
  if (iso !== null) return made(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const common =
    /^(\d{1,2})(?:\s*[./-]\s*|\s+)(\d{1,2}|\p{L}{3,9})\.?(?:\s*[./-]?\s*(\d{4}|\d{2}))?$/u.exec(
      text,
    );
  if (common === null) return undefined;
  const [, day = "", named = "", year = ""] = common;
  const month = /^\d/.test(named)
    ? Number(named)
    : MONTHS.findIndex((candidate) => candidate === named.slice(0, 3).toLowerCase()) + 1;
  if (year !== "")
    return made(year.length === 2 ? 2000 + Number(year) : Number(year), month, Number(day));
  const thisYear = Number(today.slice(0, 4));
  const now = made(thisYear, month, Number(day));
  return now !== undefined && now >= today ? now : made(thisYear + 1, month, Number(day));
}

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

function made(year: number, month: number, day: number): string | undefined {
  const date = new Date(Date.UTC(year, month - 1, day));
  if (year < 2000 || year > 2200 || date.getUTCMonth() !== month - 1 || date.getUTCDate() !== day)
    return undefined;
  return date.toISOString().slice(0, 10);
}

/** A time of day: hours, minutes where there are any, and the half of the day. */
const TIME =
  /(\d{1,2})(?:\s?[:.h]\s?(\d{2})(?::\d{2})?)?\s*(?:h|uhr|o'clock)?\s*([ap])?\.?\s?(?:m\b\.?)?/iy;
const PACKED = /^(\d{1,2})(\d{2})$/;
const LONGEST = 60;

/**
 * Reads the times of day of a cell: `18:00`, `6.30 pm`, `18h30`, `1800`, or two of them as in `18:00 to 19:30`.
 *
 * @param text the cell; empty or "tbc" for a time that isn't known, as for a whole day
 * @param end  the cell with the end, where it has a column of its own
 * @returns the begin and the end as `HH:MM`, as far as they are told; undefined where there is something else
 */
export function readTimes(text: string, end = ""): string[] | undefined {
  const begins = timesIn(text);
  const ends = timesIn(end);
  if (begins === undefined || ends === undefined) return undefined;
  if (begins.length === 0) return ends.length === 0 ? [] : undefined;
  return [...begins, ...ends].slice(0, 2);
}

function timesIn(text: string): string[] | undefined {
  const clean = text.normalize("NFKC").trim().toLowerCase();
  if (clean === "" || /^(tbc|tba|tbd|all day|ganztags|-+|\?+|n\/a)$/.test(clean)) return [];
  if (clean.length > LONGEST) return undefined;
  const parts = clean
    .split(/\s*(?:–|—|-|\bto\b|\bbis\b|\buntil\b|\ba\b(?=\s\d))\s*/)
    .filter(Boolean);
  if (parts.length > 2) return undefined;
  const [first, second] = parts.map(partsOf);
  if (first === undefined || (parts.length === 2 && second === undefined)) return undefined;
  // "6 to 7.30 pm" means both by the second.
  const half = first.half || (second?.half ?? "");
  const times = [clockOf({ ...first, half }), ...(second === undefined ? [] : [clockOf(second)])];
  return times.includes(undefined) ? undefined : (times as string[]);
}

interface Clock {
  hour: number;
  minute: number;
  half: string;
}

function partsOf(text: string): Clock | undefined {
  const packed = PACKED.exec(text);
  if (packed !== null) return { hour: Number(packed[1]), minute: Number(packed[2]), half: "" };
  TIME.lastIndex = 0;
  const found = TIME.exec(text);
  if (found === null || found[0].trim() !== text.trim()) return undefined;
  return { hour: Number(found[1]), minute: Number(found[2] ?? 0), half: found[3] ?? "" };
}

function clockOf({ hour, minute, half }: Clock): string | undefined {
  if (half !== "" && (hour < 1 || hour > 12)) return undefined;
  const whole = half === "" ? hour : (hour % 12) + (half === "p" ? 12 : 0);
  if (whole > 23 || minute > 59) return undefined;
  return `${String(whole).padStart(2, "0")}:${String(minute).padStart(2, "0")}`;
}

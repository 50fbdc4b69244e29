import { momentAt, offsetAt } from "./when";

/** One change of the clocks of a time zone, as a component of VTIMEZONE tells it (RFC 5545, section 3.6.5). */
export interface ClockChange {
  kind: "STANDARD" | "DAYLIGHT";
  /** What the clocks show at the change, before it. */
  at: string;
  /** Minutes ahead of UTC before and after it. */
  from: number;
  to: number;
  /** What people call the time after it, such as `BST`. */
  name: string;
}

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** Clocks change at full minutes. */
const MINUTE = 60_000;

/**
 * Returns the changes of a zone's clocks that a date needs to be understood: the last one before it begins, and all until it
 * ends. A zone whose clocks never change has one, long ago.
 *
 * @param from  when the first date begins
 * @param until when the last one ends
 */
export function clockChanges(zone: string, from: Date, until: Date): ClockChange[] {
  // Many invitations to one date ask for the same, and finding it looks at every day.
  const key = `${zone} ${from.getTime()} ${until.getTime()}`;
  const known = FOUND.get(key);
  if (known !== undefined) return known;
  const found = findChanges(zone, from, until);
  if (FOUND.size >= MOST_KEPT) FOUND.clear();
  FOUND.set(key, found);
  return found;
}

const FOUND = new Map<string, ClockChange[]>();
const MOST_KEPT = 500;

function findChanges(zone: string, from: Date, until: Date): ClockChange[] {
  // The last change before the first date is at most a year back where clocks change at all.
  const begin = from.getTime() - 400 * DAY;
  const changes: (ClockChange & { instant: number })[] = [];
  for (let at = begin; at < until.getTime() + DAY; at += DAY) {
    const [before, after] = [offsetAt(zone, at), offsetAt(zone, at + DAY)];
    if (before !== after) changes.push(changeBetween(zone, at, at + DAY));
  }
  const needed = changes.filter(
    ({ instant }, index) =>
      instant > from.getTime() ||
      !changes.slice(index + 1).some((next) => next.instant <= from.getTime()),
  );
  if (needed.length > 0) return needed.map(({ instant: _, ...change }) => change);
  const offset = offsetAt(zone, begin);
  const name = nameOf(zone, begin);
  return [{ kind: "STANDARD", at: "1970-01-01T00:00", from: offset, to: offset, name }];
}

function changeBetween(
  zone: string,
  before: number,
  after: number,
): ClockChange & { instant: number } {
  const from = offsetAt(zone, before);
  let [low, high] = [before, after];
  while (high - low > MINUTE) {
    const middle = Math.floor((low + high) / 2 / MINUTE) * MINUTE;
    if (offsetAt(zone, middle) === from) low = middle;
    else high = middle;
  }
  const to = offsetAt(zone, high);
  return {
    instant: high,
    kind: to > from ? "DAYLIGHT" : "STANDARD",
    // By the clocks before the change, which `momentAt` no longer shows at it.
    at: new Date(high + from * MINUTE).toISOString().slice(0, 16),
    from,
    to,
    name: nameOf(zone, high),
  };
}

function nameOf(zone: string, instant: number): string {
  return (
    new Intl.DateTimeFormat("en-GB", { timeZone: zone, timeZoneName: "short" })
      .formatToParts(instant)
      .find(({ type }) => type === "timeZoneName")?.value ?? momentAt(new Date(instant), zone)
  );
}

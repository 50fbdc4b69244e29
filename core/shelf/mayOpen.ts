/** A file or link on shelves, as far as it matters for who may open it. */
export interface ShelvedThing {
  /** The lists on whose shelves it is. */
  lists: readonly string[];
  /** The last day on which members may open it, on the house's clocks; empty for no end. */
  untilDay: string;
  /** Whether it was taken off all shelves. */
  isTakenOff: boolean;
}

/** A time during which somebody was on a list: from an instant until another, or until now. */
export interface Spell {
  list: string;
  from: Date;
  until: Date | null;
}

/**
 * Whether somebody may open something, and why. Where they may not: it was taken off, its last day is over, the list is closed, they
 * have left it (and when), or they were never on it.
 */
export type MayOpen =
  | { may: true; list: string; since: Date }
  | { may: false; because: "off" | "over" | "closed" | "left" | "never"; until?: Date };

/**
 * Tells whether somebody may open something on a shelf: as long as it is there, its last day isn't over, and they are on one of
 * its lists, which is open. Nothing else gives that right, and nothing has to be done to end it.
 *
 * @param spells when they were on which lists, in any order
 * @param open   the lists that are open now
 * @param today  the calendar date on the house's clocks
 * @param now    the instant at which they ask
 */
export function mayOpen(
  thing: ShelvedThing,
  spells: readonly Spell[],
  open: ReadonlySet<string>,
  today: string,
  now: Date,
): MayOpen {
  if (thing.isTakenOff) return { may: false, because: "off" };
  if (thing.untilDay !== "" && thing.untilDay < today) return { may: false, because: "over" };
  const theirs = spells.filter(({ list, from }) => thing.lists.includes(list) && from <= now);
  const current = theirs.filter(({ until }) => until === null || until > now);
  const [since] = current
    .filter(({ list }) => open.has(list))
    .sort((one, other) => one.from.getTime() - other.from.getTime());
  if (since !== undefined) return { may: true, list: since.list, since: since.from };
  if (current.length > 0) return { may: false, because: "closed" };
  const ends = theirs.flatMap(({ until }) => (until === null ? [] : [until]));
  const [last] = ends.sort((one, other) => other.getTime() - one.getTime());
  return last === undefined
    ? { may: false, because: "never" }
    : { may: false, because: "left", until: last };
}

import { counted } from "../text/sentence";

/** One kind of thing that a school keeps for a time. All times are days. */
interface Kept {
  /** What people call it. */
  name: string;
  /** One of it and several, as they are counted. */
  unit: readonly [string, string];
  /** What is removed when its time is over, and what stays. */
  what: string;
  /** What speaks for how long, and what schools usually choose. */
  why: string;
  /** How long it is kept unless the school says otherwise; null for good. */
  proposed: number | null;
  /** How long it is kept at least, because something needs it that long. */
  least: number;
}

/** Everything that has a time of its own, in the order of the page. */
export const KEPT = {
  posts: {
    name: "Posts in the archive",
    unit: ["post", "posts"],
    what: "The text and attachments of a post. Its line stays: subject, writer, day and how many got it.",
    why: "Long enough for families to look something up, no longer. Two school years are usual.",
    proposed: 730,
    least: 1,
  },
  deliveries: {
    name: "Who got which post",
    unit: ["copy", "copies"],
    what: "The addresses in delivery reports, and returned mail. The counts stay.",
    why: "Needed to answer “I never got that”. At least a year, because the links to leave a list work that long.",
    proposed: 400,
    least: 366,
  },
  imports: {
    name: "Older imports",
    unit: ["import", "imports"],
    what: "The file and its rows. The newest import of each source always stays, and so does what was read from the older ones.",
    why: "They show why something was changed, with the cells of that time. A year and a bit covers one whole school year.",
    proposed: 400,
    least: 30,
  },
  answers: {
    name: "Form answers that no longer count",
    unit: ["answer", "answers"],
    what: "Answers that were declined, replaced or never confirmed, and all answers of past seasons.",
    why: "Proof of what a family agreed to is often kept for three years, the usual time in which claims end.",
    proposed: 1095,
    least: 30,
  },
  additions: {
    name: "Additions that are done with",
    unit: ["row", "rows"],
    what: "Rows that were removed, declined or have ended, and all rows of past seasons, with their history.",
    why: "They show who added whom. One year is usual.",
    proposed: 400,
    least: 30,
  },
  seasons: {
    name: "Rosters of past seasons",
    unit: ["season", "seasons"],
    what: "Names, addresses, classes and changes of a season that is over, its imports, and the members of its closed lists.",
    why: "Data protection law asks you to remove what has no purpose any more. Two years after a season’s end are usual; a school may have to keep its official roster longer, but not here.",
    proposed: 730,
    least: 90,
  },
  journal: {
    name: "Journal",
    unit: ["entry", "entries"],
    what: "Entries of who did what and when.",
    why: "Needed to clear up mistakes and misuse. Three years are usual.",
    proposed: 1095,
    least: 90,
  },
} as const satisfies Record<string, Kept>;

export type KeptKind = keyof typeof KEPT;

export const KEPT_KINDS = Object.keys(KEPT) as [KeptKind, ...KeptKind[]];

/** A school's own times, in days; null for good, and what is missing as proposed. */
export type KeepTimes = Partial<Record<KeptKind, number | null>>;

/** How long a school keeps everything. */
export function keepTimes(own: KeepTimes): Record<KeptKind, number | null> {
  return Object.fromEntries(
    KEPT_KINDS.map((kind) => [kind, own[kind] === undefined ? KEPT[kind].proposed : own[kind]]),
  ) as Record<KeptKind, number | null>;
}

/** Returns a count of one kind in words, such as `3 imports`. */
export function countKept(kind: KeptKind, count: number): string {
  const [one, many] = KEPT[kind].unit;
  return counted(count, one, many);
}

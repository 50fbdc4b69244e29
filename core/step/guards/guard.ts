/** One list before and after a round, by counts of addresses. */
export interface ListBeforeAfter {
  key: string;
  name: string;
  before: number;
  leaves: number;
  joins: number;
}

/** What a guard looks at. */
export interface RoundToGuard {
  lists: readonly ListBeforeAfter[];
  /** Rows of the newest reading of each source, and of the one before it. */
  sources: readonly { name: string; rowsBefore: number; rowsNow: number }[];
}

/** A guard that stands: it stops a round until somebody types its count. */
export interface StandingGuard {
  id: string;
  /** What it is about, in bold: a list or a source. */
  about: string;
  sentence: string;
  /** The number that has to be typed to pass. */
  count: number;
}

/** A check that can stop a round. To add one, add a file with one of these and name it in `allGuards.ts`. */
export interface Guard {
  id: string;
  check(round: RoundToGuard): StandingGuard[];
}

import type { Message } from "@amigo/language/message";
import type { Limits } from "./limits";

/** One list before and after a round, by counts of addresses. */
export interface ListBeforeAfter {
  key: string;
  name: string;
  before: number;
  leaves: number;
  joins: number;
  /** How many of those who join are outside the house's domains and, by the list's rules, do not belong on it. */
  outsideJoins: number;
}

/** The newest reading of a source, and what is known of the one before it. */
export interface SourceToGuard {
  name: string;
  rowsBefore: number;
  rowsNow: number;
  /** Needed columns that were there before and are gone, in the words of the interface. */
  gone: (Message | string)[];
  /** When the files were written, as ISO instants; empty where it is not known. */
  writtenBefore: string;
  writtenNow: string;
  /** Seasons that the sheet itself names, such as `2025-26`; empty where it names none. */
  seasons: string[];
  /** The source's own limits, in place of the house's. */
  limits: Partial<Limits>;
}

/** What a guard looks at. */
export interface RoundToGuard {
  lists: readonly ListBeforeAfter[];
  /** Sources that were read since the last round was carried out. */
  sources: readonly SourceToGuard[];
  /** Addresses of several families, with how many families they had before the round. */
  shared: readonly { address: string; families: number; before: number }[];
  season: string;
  limits: Limits;
}

/** A guard that stands: it stops a round until somebody types its count. */
export interface StandingGuard {
  id: string;
  /** What it is about, in bold: a list, a source or an address. */
  about: string;
  sentence: Message | string;
  /** The number that has to be typed to pass. */
  count: number;
}

/** A check that can stop a round. To add one, add a file with one of these and name it in `allGuards.ts`. */
export interface Guard {
  id: string;
  check(round: RoundToGuard): StandingGuard[];
}

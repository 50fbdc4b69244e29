import type { Concept } from "../lexicon/language";

/** Whose column a title says it is. */
export type Whose = "student" | "guardian" | "household" | "staff" | "emergency" | "other";

/** A title, taken apart into whose column it is and what it holds. Weights run from 0 to 1. */
export interface TitleReading {
  whose: ReadonlyMap<Whose, number>;
  what: ReadonlyMap<Concept, number>;
  /** Which of several it is: a number, `mother`, `father`; empty where it doesn't say. */
  slot: string;
  /** Which part of a name it says comes first, where it names both. */
  order: "family first" | "given first" | "";
  /** Whether any of its words is known. */
  known: boolean;
  /** The number of its words. */
  words: number;
  /** Its words that no language here has, folded. */
  strange: readonly string[];
}

/** How likely each language is, 0 to 1. */
export type Languages = ReadonlyMap<string, number>;

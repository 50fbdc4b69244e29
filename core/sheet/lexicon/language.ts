/** What a word of a title can speak of: whose column it is, what it holds, or which one of several. */
export type Concept =
  // whose
  | "student"
  | "guardian"
  | "mother"
  | "father"
  | "staff"
  | "emergency"
  | "self"
  | "sibling"
  | "doctor"
  | "household"
  // what
  | "name"
  | "surname"
  | "given"
  | "nickname"
  | "prefix"
  | "number"
  | "class"
  | "team"
  | "level"
  | "site"
  | "email"
  | "address"
  | "phone"
  | "relation"
  | "birth"
  | "submitted"
  | "season"
  | "street"
  | "town"
  | "postcode"
  | "health"
  | "gender"
  | "consent"
  | "notes"
  | "counter"
  | "job"
  | "money"
  | "private"
  // which
  | "first"
  | "second"
  | "third"
  | "fourth"
  | "fifth";

/**
 * What offices write in one language. Each entry is a list of words separated by blanks; `first_name` is a phrase of two
 * words, `rodzic*` any word that begins so, `?room` a word that only hints at it. A word may stand in several entries. To add a language, add a file with one of
 * these and name it in `allLanguages.ts`.
 */
export interface Language {
  /** By BCP 47. */
  code: string;
  concepts: Partial<Record<Concept, string>>;
  /** Small words that say nothing of a column, but tell the language. */
  small: string;
  /** Words at the start of a line that adds up. */
  totals: string;
  /** Common given names, for telling given names from surnames. */
  given: string;
  /** Whether words are written together: *Schülernachname*. */
  compounds?: boolean;
  /** Whether people have two surnames as a rule. */
  twoSurnames?: boolean;
}

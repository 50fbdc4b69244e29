/** The name of what a column holds. `guardian.*` and `detail` carry a slot from 1 beside it. */
export type MeaningId =
  | "student.number"
  | "student.surname"
  | "student.given"
  | "student.name"
  | "student.level"
  | "student.address"
  | "site"
  | "classes"
  | "teams"
  | "coach"
  | "coach.address"
  | "season"
  | "answered"
  | "guardian.name"
  | "guardian.given"
  | "guardian.surname"
  | "guardian.address"
  | "guardian.relationship"
  | "detail"
  | "unread";

/** What the cells of one column look like, taken over a sample of its data rows. */
export interface ColumnProfile {
  /** Share of the cells that are filled, 0 to 1. */
  filled: number;
  /** Shares of the filled cells, 0 to 1. */
  address: number;
  number: number;
  smallNumber: number;
  code: number;
  commaName: number;
  words: number;
  /** Cells with a letter, digits or none: `3A`, `1 Oak`, `U8`. */
  letters: number;
  date: number;
  /** Cells such as `2026-27` or `2026/2027`. */
  season: number;
  /** Whether the same few values stand with many rows each, as a teacher's address does and a family's does not. */
  repeated: boolean;
  /** Distinct values as a share of the filled cells, 0 to 1. */
  distinct: number;
  /** Mean number of words in a filled cell. */
  wordsEach: number;
}

/** One column meaning. To add one, add a file with one of these and name it in `allMeanings.ts`. */
export interface Meaning {
  id: MeaningId;
  /** What the interface calls it. */
  label: string;
  /** The second, smaller word where several meanings share a label. */
  part?: string;
  /** Whether there can be several in one sheet, one for each guardian. */
  slotted: boolean;
  /** How many of them there can be; 4 where nothing is said. */
  most?: number;
  /** How titles name it, matched against the folded title; the number is how sure that makes one, 0 to 1. */
  titles: readonly (readonly [RegExp, number])[];
  /** How well the cells agree, 0 (can not be) to 1. */
  cells(profile: ColumnProfile): number;
  /** How sure the cells alone make one, whatever the title says, 0 to 1. Left out where cells alone tell nothing. */
  known?(profile: ColumnProfile): number;
}

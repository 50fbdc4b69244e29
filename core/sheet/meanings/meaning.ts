import type { Message } from "@amigo/language/message";
import type { ColumnProfile } from "../columns/profileColumn";
import type { Whose } from "../columns/titleReading";
import type { Concept } from "../lexicon/language";

/** The name of what a column holds. `guardian.*`, `detail` and marks carry a slot from 1 beside it, `student.*` that of a child where a row has several. */
export type MeaningId =
  | "student.number"
  | "student.surname"
  | "student.prefix"
  | "student.given"
  | "student.name"
  | "children"
  | "person.kind"
  | "family"
  | "student.level"
  | "student.address"
  | "site"
  | "classes"
  | "classes.mark"
  | "teams"
  | "teams.mark"
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
  | "private"
  | "unread";

/** One column meaning. To add one, add a file with one of these and name it in `allMeanings.ts`. */
export interface Meaning {
  id: MeaningId;
  /** What the interface calls it. */
  label: Message;
  /** The second, smaller word where several meanings share a label. */
  part?: Message;
  /** Whether there can be several in one sheet, one for each guardian. */
  slotted: boolean;
  /** How many of them there can be; 4 where nothing is said. */
  most?: number;
  /** Whether there is one for each child, where a row has several children. */
  ofChild?: boolean;
  /** How its titles speak of it. */
  title: TitleOfMeaning;
  /**
   * How well the cells agree, as points: a logarithm of how much likelier such cells are in a column of this meaning than in
   * any other. Below -6 they rule it out.
   */
  cells(profile: ColumnProfile): number;
}

/** How titles speak of a meaning. Weights run from 0 to 1. */
export interface TitleOfMeaning {
  /** Whose column it is; left out where that doesn't matter. */
  whose?: Whose;
  /** What such a title says it holds, and how surely that makes one. */
  what: Partial<Record<Concept, number>>;
  /** How sure a title makes one that says what but not whose. */
  unsaid: number;
  /** How sure a title makes one that says only whose: "Child", "Mother". */
  bare: number;
}

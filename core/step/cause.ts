import type { Message } from "@amigo/language/message";
import type { Fact } from "../facts/fact";

/** The kinds of causes, in the order in which they are shown. */
export const CAUSE_KINDS = [
  "season",
  "rules",
  "recipe",
  "naming",
  "list",
  "staff",
  "cohort",
  "moved",
  "joined",
  "left",
  "unreachable",
  "reachable",
  "address",
  "name",
  "guardian-added",
  "guardian-gone",
  "corrected",
  "expired",
  "detail",
] as const;

export type CauseKind = (typeof CAUSE_KINDS)[number];

/** One fact that changed in the sources, with everything that changes by it. What is told of it is a message, or its words where they are chosen already. */
export interface Cause {
  /** The same for the same event in every round, so that what was held is known again. */
  key: string;
  kind: CauseKind;
  /** The person or cohort that it is about. */
  subject: string;
  /** The heading: a person's or cohort's name. */
  title: Message | string;
  /** One line below it: `Juggling One → Trapeze Two`. */
  detail: Message | string;
  /** One sentence that says it all. */
  sentence: Message | string;
  /** The cohort by which many causes of one kind are gathered. */
  group: string;
  /** Facts that hold from now on. */
  adds: Fact[];
  /** Facts that no longer hold, as they stood. */
  removes: Fact[];
}

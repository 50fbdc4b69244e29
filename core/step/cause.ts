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

/** One fact that changed in the sources, with everything that changes by it. */
export interface Cause {
  /** The same for the same event in every round, so that what was held is known again. */
  key: string;
  kind: CauseKind;
  /** The person or cohort that it is about. */
  subject: string;
  /** The heading: a person's or cohort's name. */
  title: string;
  /** One line below it: `Juggling One → Trapeze Two`. */
  detail: string;
  /** One sentence that says it all. */
  sentence: string;
  /** The cohort by which many causes of one kind are gathered. */
  group: string;
  /** Facts that hold from now on. */
  adds: Fact[];
  /** Facts that no longer hold, as they stood. */
  removes: Fact[];
}

import type { CohortKind } from "../facts/fact";

/** Who belongs on a list. `cohort` undefined stands for "this class", which a recipe fills in. */
export interface Audience {
  who: "students" | "guardians";
  kind: CohortKind;
  cohort: string | undefined;
}

/** An error in an audience text, at a position counted from 0, with a proposal where one is at hand. */
export interface AudienceFault {
  at: number;
  sentence: string;
  proposal: string | undefined;
}

export type CohortKind = "class" | "team" | "committee";

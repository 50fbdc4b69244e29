export type CohortKind = "class" | "team" | "committee";

/** What a class, team or committee is, as the sources tell it. */
export interface CohortValue {
  name: string;
  kind: CohortKind;
  site: string;
  coach: string;
}

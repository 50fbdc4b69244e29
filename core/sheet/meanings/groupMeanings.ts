import type { MeaningId } from "./meaning";

/** The meanings that say to which class or team a row belongs. */
export const GROUP_MEANINGS: ReadonlySet<MeaningId> = new Set<MeaningId>([
  "classes",
  "teams",
  "classes.mark",
  "teams.mark",
]);

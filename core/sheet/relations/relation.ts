import type { Evidence } from "../columns/evidence";
import type { MeaningId } from "../meanings/meaning";

/** What every column of a sheet is taken for, in the order of the columns. */
export type Labels = readonly MeaningId[];

/**
 * One way in which columns belong together. To add one, add a file with one of these and name it in `allRelations.ts`.
 */
export interface Relation {
  id: string;
  /** How much a reading of the whole sheet gains or loses by it, in points. */
  points(labels: Labels, evidence: Evidence): number;
}

/** The columns that are taken for any of some meanings. */
export function columnsOf(labels: Labels, ...meanings: readonly MeaningId[]): number[] {
  const found: number[] = [];
  for (let index = 0; index < labels.length; index++)
    if (meanings.includes(labels[index] ?? "unread")) found.push(index);
  return found;
}

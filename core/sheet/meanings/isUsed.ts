import type { MeaningId } from "./meaning";

/** Whether a column of this meaning brings anything into the house: one that isn't used doesn't, nor one that is never stored. */
export function isUsed(meaning: MeaningId): boolean {
  return meaning !== "unread" && meaning !== "private";
}

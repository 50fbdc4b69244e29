import type { Crossing } from "./kind";

/** Returns a fact about a list as one about the list that follows it in the next season; undefined where none does. */
export function ofNextList<Of extends { subject: string }>(
  fact: Of,
  { listAfter }: Crossing,
): Of | undefined {
  const subject = listAfter(fact.subject);
  return subject === undefined ? undefined : { ...fact, subject };
}

/** Whether a last day, as a calendar date and empty for none, is over. */
export function isOver(lastDay: string, today: string): boolean {
  return lastDay !== "" && lastDay < today;
}

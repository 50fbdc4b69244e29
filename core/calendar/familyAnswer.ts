import type { Answer } from "./calendarDate";

/**
 * Returns what a family says to an invitation that went to several of its addresses: they come if one of them says so, else
 * maybe, else no; null where none of them has answered.
 */
export function familyAnswer(answers: readonly (Answer | null)[]): Answer | null {
  return (["yes", "maybe", "no"] as const).find((answer) => answers.includes(answer)) ?? null;
}

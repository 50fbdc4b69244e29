import type { Answer } from "./calendarDate";

/** What a family says to an invitation: like one of its members, or that they wait for a place. */
export type FamilyAnswer = Answer | "waiting";

/**
 * Returns what a family says to an invitation that went to several of its addresses: they come if one of them does, else wait,
 * else maybe, else no; null where none of them has answered.
 */
export function familyAnswer(
  guests: readonly { answer: Answer | null; isWaiting: boolean }[],
): FamilyAnswer | null {
  const answers = guests.map(({ answer, isWaiting }) => (isWaiting ? "waiting" : answer));
  return (["yes", "waiting", "maybe", "no"] as const).find((one) => answers.includes(one)) ?? null;
}

/** Returns guests by their families. Whoever has none counts as a family of their own. */
export function byFamily<Guest extends { family: string; address: string }>(
  guests: readonly Guest[],
): Map<string, Guest[]> {
  const families = new Map<string, Guest[]>();
  for (const guest of guests) {
    const key = guest.family === "" ? guest.address : guest.family;
    const family = families.get(key);
    if (family === undefined) families.set(key, [guest]);
    else family.push(guest);
  }
  return families;
}

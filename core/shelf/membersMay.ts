import type { MayOpen } from "./mayOpen";

/** What members may do with a thing on a shelf, each with what stands before it. */
export const MEMBERS_MAY = ["view", "comment", "change"] as const;
export type MembersMay = (typeof MEMBERS_MAY)[number];

/**
 * Tells whether somebody may do something with a thing: whoever may open it, as far as members may do that, and with what they put
 * there themselves everything.
 *
 * @param found     whether they may open it
 * @param wanted    what they want to do
 * @param isTheirs  whether they put it there
 */
export function memberMay(
  found: MayOpen,
  membersMay: MembersMay,
  wanted: MembersMay,
  isTheirs: boolean,
): boolean {
  if (!found.may) return false;
  return isTheirs || MEMBERS_MAY.indexOf(wanted) <= MEMBERS_MAY.indexOf(membersMay);
}

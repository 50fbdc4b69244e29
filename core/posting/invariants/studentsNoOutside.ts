import { isInside } from "../../address/isInside";
import { addressesIn } from "../rules/also";
import type { Invariant } from "./invariant";

/** Nobody from outside writes to students. */
export const studentsNoOutside: Invariant = {
  id: "students-no-outside",
  words: "A list of students takes no outside writers.",
  canBeOff: false,
  refuses: true,
  check: ({ kind, rules, insideDomain }) => {
    if (kind !== "students") return undefined;
    const stranger = addressesIn(rules.also).find((address) => !isInside(address, insideDomain));
    if (stranger !== undefined)
      return `Students are on this list, so ${stranger}, an outside address, may not write to it.`;
    const membersWrite = rules.writers === "members" || rules.writers === "inside";
    return membersWrite && rules.outside !== "none"
      ? 'Students are on this list and members may write to it, so no outside address may be on it: choose outside addresses "none", or let leads alone write.'
      : undefined;
  },
};

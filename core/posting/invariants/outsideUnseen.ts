import type { Invariant } from "./invariant";

/** Families must not get each other's addresses by a list. */
export const outsideUnseen: Invariant = {
  id: "outside-unseen",
  words: "A list with outside addresses never shows its members to each other.",
  canBeOff: true,
  refuses: true,
  check: ({ rules }) =>
    rules.outside !== "none" && (rules.seen === "yes" || rules.roster === "members")
      ? 'Outside addresses may be on this list, so its members must not see each other: choose "do not see", and that its leads or the staff see who is on it.'
      : undefined,
};

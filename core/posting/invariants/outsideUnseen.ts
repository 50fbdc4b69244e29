import { message } from "@amigo/language/message";
import type { Invariant } from "./invariant";

/** Families must not get each other's addresses by a list. */
export const outsideUnseen: Invariant = {
  id: "outside-unseen",
  words: message("posting.aListWithOutsideAddresses"),
  canBeOff: true,
  refuses: true,
  check: ({ rules }) =>
    rules.outside !== "none" && (rules.seen === "yes" || rules.roster === "members")
      ? message("posting.outsideAddressesMayBeOn2")
      : undefined,
};

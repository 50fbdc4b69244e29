import { message } from "@amigo/language/message";
import type { Invariant } from "./invariant";

/** Whoever answers an announcement reaches somebody, or is told that they do not. */
export const repliesGoSomewhere: Invariant = {
  id: "replies-go-somewhere",
  words: message("posting.announcementOnlyListsHaveReplies"),
  canBeOff: false,
  refuses: true,
  check: ({ rules }) => {
    if (rules.writers !== "leads" && rules.writers !== "leads and helpers") return undefined;
    if (rules.replies === "list") return message("posting.onlyItsLeadsMayWrite");
    return rules.replies === "nobody" && rules.other === "dropped"
      ? message("posting.repliesGoToNobodyAnd")
      : undefined;
  },
};

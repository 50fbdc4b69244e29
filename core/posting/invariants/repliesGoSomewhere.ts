import type { Invariant } from "./invariant";

/** Whoever answers an announcement reaches somebody, or is told that they do not. */
export const repliesGoSomewhere: Invariant = {
  id: "replies-go-somewhere",
  words: "Announcement-only lists have replies that go somewhere, or say that they don't.",
  canBeOff: false,
  refuses: true,
  check: ({ rules }) => {
    if (rules.writers !== "leads" && rules.writers !== "leads and helpers") return undefined;
    if (rules.replies === "list")
      return "Only its leads may write to this list, so replies to the list would reach nobody: choose the leads, the writer or nobody.";
    return rules.replies === "nobody" && rules.other === "dropped"
      ? "Replies go to nobody and other mail is discarded, so whoever answers would never know: choose that other mail is returned with a reason."
      : undefined;
  },
};

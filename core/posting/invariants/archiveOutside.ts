import type { Invariant } from "./invariant";

/** Where outside addresses read an archive, it is their list's alone. */
export const archiveOutside: Invariant = {
  id: "archive-outside",
  words: "An archive with outside readers is read by members only.",
  canBeOff: false,
  refuses: true,
  check: ({ rules }) =>
    rules.archive === "inside" && rules.outside !== "none"
      ? "Outside addresses may be on this list, so its archive can't be read by anyone inside: choose that its members or its leads read it."
      : undefined,
};

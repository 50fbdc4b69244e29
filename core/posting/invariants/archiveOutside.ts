import { message } from "@amigo/language/message";
import type { Invariant } from "./invariant";

/** Where outside addresses read an archive, it is their list's alone. */
export const archiveOutside: Invariant = {
  id: "archive-outside",
  words: message("posting.anArchiveWithOutsideReaders"),
  canBeOff: false,
  refuses: true,
  check: ({ rules }) =>
    rules.archive === "inside" && rules.outside !== "none"
      ? message("posting.outsideAddressesMayBeOn")
      : undefined,
};

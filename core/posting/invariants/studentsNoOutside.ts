import { message } from "@amigo/language/message";
import { isInside } from "../../address/isInside";
import { addressesIn } from "../rules/also";
import type { Invariant } from "./invariant";

/** Nobody from outside writes to students. */
export const studentsNoOutside: Invariant = {
  id: "students-no-outside",
  words: message("posting.aListOfStudentsTakes"),
  canBeOff: false,
  refuses: true,
  check: ({ kind, rules, insideDomains }) => {
    if (kind !== "students") return undefined;
    const stranger = addressesIn(rules.also).find((address) => !isInside(address, insideDomains));
    if (stranger !== undefined) return message("posting.studentsAreOnThisList2", { stranger });
    const membersWrite = rules.writers === "members" || rules.writers === "inside";
    return membersWrite && rules.outside !== "none"
      ? message("posting.studentsAreOnThisList")
      : undefined;
  },
};

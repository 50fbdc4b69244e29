import { message } from "@amigo/language/message";
import type { Invariant } from "./invariant";

/** Somebody must be able to decide. Until a lead can, the coordinators do, so this is told and not refused. */
export const leadSignsIn: Invariant = {
  id: "lead-signs-in",
  words: message("posting.everyListHasALead"),
  canBeOff: false,
  refuses: false,
  check: ({ hasLead }) => (hasLead ? undefined : message("posting.noLeadOfThisList")),
};

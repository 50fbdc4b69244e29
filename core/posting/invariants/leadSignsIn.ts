import type { Invariant } from "./invariant";

/** Somebody must be able to decide. Until a lead can, the coordinators do, so this is told and not refused. */
export const leadSignsIn: Invariant = {
  id: "lead-signs-in",
  words: "Every list has a lead who can sign in.",
  canBeOff: false,
  refuses: false,
  check: ({ hasLead }) =>
    hasLead
      ? undefined
      : "No lead of this list can sign in. Until one can, coordinators decide for it: name a lead, or invite the coach under Settings, Accounts.",
};

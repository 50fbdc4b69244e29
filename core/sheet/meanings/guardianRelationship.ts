import type { Meaning } from "./meaning";

export const guardianRelationship: Meaning = {
  id: "guardian.relationship",
  label: "Guardian",
  part: "relationship",
  slotted: true,
  titles: [[/^(relationship|relation|relationship to (the )?(student|child|pupil))( \d)?$/, 1]],
  cells: ({ distinct, address, words }) => (address > 0.1 || distinct > 0.3 ? 0.1 : words),
};

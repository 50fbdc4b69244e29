import type { Meaning } from "./meaning";

export const guardianGiven: Meaning = {
  id: "guardian.given",
  label: "Guardian",
  part: "first name",
  slotted: true,
  titles: [
    [
      /^(parent|carer|guardian|mother|father|contact|parent carer|parent guardian)s?( \d)?( s)? (first|given|fore) ?name( \d)?$/,
      1,
    ],
  ],
  cells: ({ words, address }) => (address > 0.1 ? 0 : words),
};

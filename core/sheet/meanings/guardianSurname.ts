import type { Meaning } from "./meaning";

export const guardianSurname: Meaning = {
  id: "guardian.surname",
  label: "Guardian",
  part: "surname",
  slotted: true,
  titles: [
    [
      /^(parent|carer|guardian|mother|father|contact|parent carer|parent guardian)s?( \d)?( s)? (surname|last name|family name)( \d)?$/,
      1,
    ],
  ],
  cells: ({ words, address }) => (address > 0.1 ? 0 : words),
};

import type { Meaning } from "./meaning";

export const guardianName: Meaning = {
  id: "guardian.name",
  label: "Guardian",
  part: "name",
  slotted: true,
  titles: [
    [
      /^(first |second |third |other )?(parent|carer|guardian|mother|father|contact|mum|dad|adult|parent carer|parent guardian|parent or carer|parent or guardian)s?( \d)?( s)?( full)?( names?)?( \d)?$/,
      1,
    ],
    [/^your( full)? name$/, 1],
  ],
  cells: ({ words, address, wordsEach, commaName }) =>
    address > 0.1 ? 0 : Math.max(commaName, words * (wordsEach >= 1.5 ? 1 : 0.5)),
};

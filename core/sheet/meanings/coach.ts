import type { Meaning } from "./meaning";

export const coach: Meaning = {
  id: "coach",
  label: "Coach",
  slotted: false,
  titles: [
    [
      /^(coach|coaches|teacher|trainer|instructor|tutor|led by|lead|class teacher|homeroom teacher)$/,
      1,
    ],
    [/\b(coach|teacher|instructor)\b/, 0.8],
  ],
  cells: ({ distinct, address, words }) => (address > 0.1 ? 0 : words * (distinct < 0.5 ? 1 : 0.4)),
};

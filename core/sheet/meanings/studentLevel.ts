import type { Meaning } from "./meaning";

export const studentLevel: Meaning = {
  id: "student.level",
  label: "Level",
  slotted: false,
  titles: [
    [/^(level|grade|year|form|year group|stage)$/, 1],
    [/\b(level|grade)\b/, 0.75],
  ],
  cells: ({ smallNumber, distinct, number, filled }) =>
    number > 0 && distinct < 0.6
      ? Math.max(smallNumber, 0.5)
      : filled > 0 && distinct < 0.3
        ? 0.6
        : 0.1,
};

import type { Meaning } from "./meaning";

/** The school year that a row is about. Rows of another season are set aside. */
export const season: Meaning = {
  id: "season",
  label: "Season",
  slotted: false,
  titles: [
    [/^(season|school year|academic year|schoolyear|year|session|schuljahr|saison|curso)$/, 0.9],
    [/\b(season|school year|academic year)\b/, 0.85],
  ],
  cells: ({ season: share }) => share,
  known: ({ season: share }) => (share > 0.9 ? 0.8 : 0),
};

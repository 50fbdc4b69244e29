import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

/** The school year that a row is about. Rows of another season are set aside. */
export const season: Meaning = {
  id: "season",
  label: message("sheet.meaningSeason"),
  slotted: false,
  title: { what: { season: 1, level: 0.2 }, unsaid: 1, bare: 0 },
  cells: ({ season: share, count }) => (count === 0 ? 0 : share > 0.7 ? 5 : -7),
};

import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

/** The small words in front of a surname, where they have a column of their own: `van der`. */
export const studentPrefix: Meaning = {
  id: "student.prefix",
  label: message("sheet.meaningSurname"),
  part: message("sheet.partPrefix"),
  slotted: false,
  ofChild: true,
  title: { whose: "student", what: { prefix: 1 }, unsaid: 1, bare: 0 },
  cells: ({ particle, count }) => (count === 0 ? 0 : particle > 0.8 ? 4 : -8),
};

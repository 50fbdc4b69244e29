import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

export const answered: Meaning = {
  id: "answered",
  label: message("sheet.meaningAnswered"),
  part: message("sheet.partDateAndTime"),
  slotted: false,
  title: { what: { submitted: 1 }, unsaid: 1, bare: 0 },
  cells: ({ date, moment, years, count }) =>
    count === 0 ? 0 : date < 0.5 ? -9 : 0.5 + (moment > 0.5 ? 3 : 0) - (years > 2 ? 4 : 0),
};

import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

/** A column that isn't used. */
export const unread: Meaning = {
  id: "unread",
  label: message("sheet.meaningNotUsed"),
  slotted: false,
  title: {
    what: { counter: 1, job: 1, consent: 0.7, nickname: 0.4, number: 0.1 },
    unsaid: 1,
    bare: 0,
  },
  cells: ({ counts, yesNo, count }) =>
    count === 0 ? 2 : (counts > 0.85 ? 2 : 0) + (yesNo > 0.8 ? 0.7 : 0),
};

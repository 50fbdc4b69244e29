import { message } from "@amigo/language/message";
import { givenCells } from "./nameCells";
import type { Meaning } from "./meaning";

export const studentGiven: Meaning = {
  id: "student.given",
  label: message("sheet.meaningFirstName"),
  slotted: false,
  ofChild: true,
  title: {
    whose: "student",
    what: { given: 1, nickname: 0.5, name: 0.45 },
    unsaid: 0.8,
    bare: 0.55,
  },
  cells: givenCells,
};

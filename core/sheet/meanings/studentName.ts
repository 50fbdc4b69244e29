import { message } from "@amigo/language/message";
import { wholeNameCells } from "./nameCells";
import type { Meaning } from "./meaning";

export const studentName: Meaning = {
  id: "student.name",
  label: message("sheet.meaningStudent"),
  part: message("sheet.partWholeName"),
  slotted: false,
  ofChild: true,
  title: { whose: "student", what: { name: 1, given: 0.2, surname: 0.2 }, unsaid: 0.8, bare: 0.85 },
  cells: (profile) => wholeNameCells(profile) - (profile.couple > 0.3 ? 4 : 0),
};

import { message } from "@amigo/language/message";
import { surnameCells } from "./nameCells";
import type { Meaning } from "./meaning";

export const studentSurname: Meaning = {
  id: "student.surname",
  label: message("sheet.meaningSurname"),
  slotted: false,
  ofChild: true,
  title: { whose: "student", what: { surname: 1, name: 0.45 }, unsaid: 0.8, bare: 0.1 },
  cells: surnameCells,
};

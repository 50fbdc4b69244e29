import { message } from "@amigo/language/message";
import { surnameCells } from "./nameCells";
import type { Meaning } from "./meaning";

export const guardianSurname: Meaning = {
  id: "guardian.surname",
  label: message("sheet.meaningGuardian"),
  part: message("sheet.partSurname"),
  slotted: true,
  title: { whose: "guardian", what: { surname: 1, name: 0.4 }, unsaid: 0.35, bare: 0.1 },
  cells: (profile) => surnameCells(profile) - 0.3,
};

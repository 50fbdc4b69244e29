import { message } from "@amigo/language/message";
import { givenCells } from "./nameCells";
import type { Meaning } from "./meaning";

export const guardianGiven: Meaning = {
  id: "guardian.given",
  label: message("sheet.meaningGuardian"),
  part: message("sheet.partFirstName"),
  slotted: true,
  title: { whose: "guardian", what: { given: 1, name: 0.4 }, unsaid: 0.35, bare: 0.55 },
  cells: (profile) => givenCells(profile) - 0.3,
};

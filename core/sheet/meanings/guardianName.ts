import { message } from "@amigo/language/message";
import { wholeNameCells } from "./nameCells";
import type { Meaning } from "./meaning";

export const guardianName: Meaning = {
  id: "guardian.name",
  label: message("sheet.meaningGuardian"),
  part: message("sheet.partName"),
  slotted: true,
  title: {
    whose: "guardian",
    what: { name: 1, given: 0.2, surname: 0.2, relation: 0.2 },
    unsaid: 0.3,
    bare: 0.85,
  },
  cells: (profile) => wholeNameCells(profile) + (profile.couple > 0.3 ? 2 : 0),
};

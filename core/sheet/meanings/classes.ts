import { message } from "@amigo/language/message";
import { groupCells } from "./groupCells";
import type { Meaning } from "./meaning";

export const classes: Meaning = {
  id: "classes",
  label: message("sheet.meaningClasses"),
  slotted: false,
  ofChild: true,
  title: { what: { class: 1, level: 0.45, team: 0.3 }, unsaid: 1, bare: 0 },
  cells: (profile) =>
    groupCells(profile) +
    (profile.classCode > 0.6 ? 1.5 : 0) -
    (profile.smallNumber > 0.8 ? 0.4 : 0),
};

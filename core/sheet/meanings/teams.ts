import { message } from "@amigo/language/message";
import { groupCells } from "./groupCells";
import type { Meaning } from "./meaning";

export const teams: Meaning = {
  id: "teams",
  label: message("sheet.meaningTeams"),
  slotted: false,
  ofChild: true,
  title: { what: { team: 1, class: 0.3, level: 0.1 }, unsaid: 1, bare: 0 },
  cells: (profile) =>
    groupCells(profile) -
    0.4 +
    (profile.ageGroup > 0.5 ? 1.6 : 0) -
    (profile.classCode > 0.6 ? 0.6 : 0) -
    (profile.smallNumber > 0.8 ? 1 : 0),
};

import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

/** A class or team of its own, in which those are whose cell has a mark: students down, classes across. */
const cells: Meaning["cells"] = ({ mark, values, count }) =>
  count === 0 ? -2 : mark > 0.9 && values <= 3 ? 2.5 : -10;

export const classMark: Meaning = {
  id: "classes.mark",
  label: message("sheet.meaningMarkedClass"),
  slotted: true,
  most: 40,
  title: { what: { class: 0.4 }, unsaid: 1, bare: 0 },
  cells,
};

export const teamMark: Meaning = {
  id: "teams.mark",
  label: message("sheet.meaningMarkedTeam"),
  slotted: true,
  most: 40,
  title: { what: { team: 0.4 }, unsaid: 1, bare: 0 },
  cells,
};

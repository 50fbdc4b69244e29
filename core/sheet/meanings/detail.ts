import type { Meaning } from "./meaning";

/** A further column of the house's own, such as an instrument: kept with each student by its title, for audiences to compare. */
export const detail: Meaning = {
  id: "detail",
  label: "Further column",
  slotted: true,
  most: 9,
  titles: [],
  cells: () => 0,
};

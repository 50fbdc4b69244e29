import type { Meaning } from "./meaning";

/** A column that Amigo leaves alone. It is kept with the reading, and nothing is derived from it. */
export const unread: Meaning = {
  id: "unread",
  label: "Not read",
  slotted: false,
  titles: [],
  cells: () => 0,
};

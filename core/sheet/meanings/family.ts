import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

/** What the rows of one family have in common, where each row is one person: a number, or the household's name. */
export const family: Meaning = {
  id: "family",
  label: message("sheet.meaningFamily"),
  slotted: false,
  title: { whose: "household", what: { number: 1, name: 0.3 }, unsaid: 0.3, bare: 0.9 },
  cells: ({ count, address, date, distinct, values, kinds, tie }) =>
    count === 0 || address > 0.1 || date > 0.3 || kinds > 0 || tie > 0.3 || values < 2
      ? -8
      : distinct > 0.9
        ? -2
        : 0.5,
};

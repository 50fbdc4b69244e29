import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

/** All children of a family in one cell, each with their class where it is written with them: `Ana (3B), Luis (5A)`. */
export const children: Meaning = {
  id: "children",
  label: message("sheet.meaningStudent"),
  part: message("sheet.partSeveral"),
  slotted: false,
  title: {
    whose: "student",
    what: { name: 1, given: 0.9, class: 0.6, level: 0.6 },
    unsaid: 0.6,
    bare: 0.9,
  },
  cells: ({ childrenWithClasses, childrenPlain }) =>
    childrenWithClasses > 0.5 ? 3.5 * childrenWithClasses : childrenPlain > 0.5 ? 1.5 : -8,
};

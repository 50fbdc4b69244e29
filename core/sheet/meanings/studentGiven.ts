import { givenCells } from "./nameCells";
import type { Meaning } from "./meaning";

export const studentGiven: Meaning = {
  id: "student.given",
  label: "First name",
  slotted: false,
  ofChild: true,
  title: {
    whose: "student",
    what: { given: 1, nickname: 0.5, name: 0.45 },
    unsaid: 0.8,
    bare: 0.55,
  },
  cells: givenCells,
};

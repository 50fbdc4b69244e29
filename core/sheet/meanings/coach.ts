import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

export const coach: Meaning = {
  id: "coach",
  label: message("sheet.meaningCoach"),
  slotted: false,
  title: {
    whose: "staff",
    what: { name: 1, surname: 0.8, given: 0.3, class: 0.9, team: 0.9 },
    unsaid: 0,
    bare: 1,
  },
  cells: ({
    distinct,
    address,
    nameLike,
    count,
    titled,
    wordsEach,
    yesNo,
    gender,
    tie,
    classCode,
  }) => {
    if (count === 0) return -0.5;
    if (address > 0.2 || nameLike < 0.5) return -8;
    const weight = Math.min(1, count / 10);
    return (
      weight * (distinct <= 0.35 ? 0.6 : distinct <= 0.6 ? -0.5 : -2.5) +
      (titled > 0.5 ? 2.5 : wordsEach >= 1.8 && wordsEach <= 3 ? -0.5 : -1.5) -
      (yesNo > 0.5 || gender > 0.5 || tie > 0.5 || classCode > 0.3 ? 5 : 0)
    );
  },
};

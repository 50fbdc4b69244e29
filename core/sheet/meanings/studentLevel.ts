import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

export const studentLevel: Meaning = {
  id: "student.level",
  label: message("sheet.meaningLevel"),
  slotted: false,
  ofChild: true,
  title: { whose: "student", what: { level: 1, class: 0.25 }, unsaid: 0.9, bare: 0 },
  cells: ({
    mark,
    smallNumber,
    distinct,
    address,
    count,
    counts,
    classCode,
    nameLike,
    yesNo,
    values,
    phone,
    date,
  }) => {
    if (count === 0) return 0;
    if (address > 0.1 || phone > 0.3 || date > 0.3 || mark > 0.8) return -8;
    if (counts > 0.7 || (distinct > 0.7 && count >= 12)) return -3;
    return (
      (smallNumber > 0.7 ? 1.2 : smallNumber < 0.3 ? -1.5 : 0) -
      (classCode > 0.6 ? 1 : 0) -
      (nameLike > 0.7 ? 0.8 : 0) -
      (yesNo > 0.9 && values <= 2 ? 2 : 0)
    );
  },
};

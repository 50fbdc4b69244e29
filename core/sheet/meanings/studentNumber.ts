import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

export const studentNumber: Meaning = {
  id: "student.number",
  label: message("sheet.meaningNumber"),
  slotted: false,
  ofChild: true,
  title: { whose: "student", what: { number: 1 }, unsaid: 0.7, bare: 0 },
  cells: ({ code, number, distinct, address, count, phone, date, yesNo }) => {
    if (address > 0.1 || date > 0.5 || count === 0) return count === 0 ? 0 : -8;
    const share = Math.max(code, number);
    if (share < 0.5) return -5;
    return (
      (count < 6 ? 0 : distinct > 0.9 ? 1 : distinct > 0.6 ? 0 : -0.5) -
      (phone > 0.5 ? 1.5 : 0) -
      (yesNo > 0.8 ? 3 : 0)
    );
  },
};

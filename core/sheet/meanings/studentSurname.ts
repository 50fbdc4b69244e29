import type { Meaning } from "./meaning";

export const studentSurname: Meaning = {
  id: "student.surname",
  label: "Surname",
  slotted: false,
  titles: [
    [/^(student|child|pupil)?s?( s)? ?(surname|family name|last name)$/, 1],
    [/^(surname|last) /, 0.7],
  ],
  cells: ({ words, address, commaName, wordsEach }) =>
    address > 0.1 || commaName > 0.3 ? 0 : words * (wordsEach < 2.2 ? 1 : 0.5),
};

import type { Meaning } from "./meaning";

export const studentGiven: Meaning = {
  id: "student.given",
  label: "First name",
  slotted: false,
  titles: [
    [/^(student|child|pupil)?s?( s)? ?(first|given|christian|fore) ?names?$/, 1],
    [/^(forename|called|known as|preferred name)$/, 0.9],
  ],
  cells: ({ words, address, commaName, wordsEach }) =>
    address > 0.1 || commaName > 0.3 ? 0 : words * (wordsEach < 2.2 ? 1 : 0.5),
};

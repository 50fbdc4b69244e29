import type { Meaning } from "./meaning";

export const studentName: Meaning = {
  id: "student.name",
  label: "Student",
  part: "whole name",
  slotted: false,
  titles: [
    [
      /^(student|child|pupil|member|performer|player|athlete|singer|dancer|swimmer|learner|participant|camper|kid)s?( s)?( full)?( names?)?$/,
      1,
    ],
    [/^(full )?names?( of (the )?(student|child|pupil))?$/, 0.85],
    [/\b(student|child|pupil)s? (full )?name\b/, 0.95],
  ],
  cells: ({ words, commaName, address, wordsEach }) =>
    address > 0.1 ? 0 : Math.max(commaName, wordsEach >= 1.6 ? words : words * 0.4),
};

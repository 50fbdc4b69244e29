import type { Meaning } from "./meaning";

export const studentNumber: Meaning = {
  id: "student.number",
  label: "Number",
  slotted: false,
  titles: [
    [/^(student|pupil|member|child|enrolment|admission)s? (no|nr|number|id|code|ref)$/, 1],
    [/^(no|nr|number|id|student id|ref)$/, 0.75],
  ],
  cells: ({ code, number, distinct, address }) =>
    address > 0.1 ? 0 : Math.max(code, number * 0.8) * (0.4 + 0.6 * distinct),
};

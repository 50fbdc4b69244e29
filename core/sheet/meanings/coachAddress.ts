import type { Meaning } from "./meaning";

/** The address of whoever leads the class: it stands with many children, and is nobody's guardian's. */
export const coachAddress: Meaning = {
  id: "coach.address",
  label: "Coach",
  part: "address",
  slotted: false,
  titles: [
    [
      /^(coach|coaches|teacher|trainer|instructor|tutor|leader|class teacher|homeroom teacher|form tutor|head coach|staff)( s)? (contact )?(e ?mail|mail|contact)( address)?$/,
      1,
    ],
    [
      /\b(coach|coaches|teacher|teachers|trainer|instructor|tutor|staff)\b.*\b(e ?mail|mail|contact)\b/,
      0.97,
    ],
    [
      /\b(e ?mail|mail)\b.*\b(coach|coaches|teacher|teachers|trainer|instructor|tutor|staff)\b/,
      0.97,
    ],
  ],
  cells: ({ address }) => address,
  known: ({ address, repeated }) => (address > 0.6 && repeated ? 0.75 : 0),
};

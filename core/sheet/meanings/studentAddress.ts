import type { Meaning } from "./meaning";

export const studentAddress: Meaning = {
  id: "student.address",
  label: "Student",
  part: "address",
  slotted: false,
  titles: [[/^(student|child|pupil|school|inside) (e ?mail|mail)( address)?$/, 1]],
  cells: ({ address }) => address,
};

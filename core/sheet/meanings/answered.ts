import type { Meaning } from "./meaning";

export const answered: Meaning = {
  id: "answered",
  label: "Answered",
  part: "date and time",
  slotted: false,
  titles: [
    [
      /^(timestamp|time stamp|answered|submitted|submitted at|date submitted|received|completed)( at| on)?$/,
      1,
    ],
  ],
  cells: ({ date }) => date,
};

import type { Meaning } from "./meaning";

export const classes: Meaning = {
  id: "classes",
  label: "Classes",
  slotted: false,
  titles: [
    [
      /^(class|classes|class es|class group|class groups|class name|course|courses|group|groups)$/,
      1,
    ],
    [/^(which|your|their) class( es)?$/, 0.95],
    [/\bclass(es)?\b/, 0.8],
  ],
  cells: ({ distinct, address, letters, smallNumber }) =>
    address > 0.1 ? 0 : Math.max(letters, smallNumber * 0.7) * (distinct < 0.7 ? 1 : 0.4),
};

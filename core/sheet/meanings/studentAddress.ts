import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

export const studentAddress: Meaning = {
  id: "student.address",
  label: message("sheet.meaningStudent"),
  part: message("sheet.partAddress"),
  slotted: false,
  ofChild: true,
  title: { whose: "student", what: { email: 1, address: 0.6, site: 0.3 }, unsaid: 0.35, bare: 0.3 },
  cells: ({ address, count, repeated, addresses }) =>
    count === 0
      ? 0
      : address < 0.4
        ? -10
        : 4 * address - (repeated ? 4 : 0) - (addresses > 0.2 ? 2 : 0) - 2.2,
};

import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

export const guardianAddress: Meaning = {
  id: "guardian.address",
  label: message("sheet.meaningGuardian"),
  part: message("sheet.partAddress"),
  slotted: true,
  most: 6,
  title: { whose: "guardian", what: { email: 1, address: 0.6 }, unsaid: 0.7, bare: 0.5 },
  cells: ({ address, count, repeated, addresses }) =>
    count === 0
      ? 0
      : address < 0.25
        ? -10
        : 4 * address - (repeated ? 4 : 0) + (addresses > 0.2 ? 0.5 : 0),
};

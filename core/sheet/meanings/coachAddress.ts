import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

/** The address of whoever leads the class: it stands with many children, and is nobody's guardian's. */
export const coachAddress: Meaning = {
  id: "coach.address",
  label: message("sheet.meaningCoach"),
  part: message("sheet.partAddress"),
  slotted: false,
  title: { whose: "staff", what: { email: 1, address: 0.6, phone: 0.2 }, unsaid: 0, bare: 0.4 },
  cells: ({ address, count, repeated, distinct }) =>
    count === 0
      ? 0
      : address < 0.4
        ? -10
        : 4 * address + (repeated ? 3 : distinct < 0.3 && count > 8 ? 0 : -3.5),
};

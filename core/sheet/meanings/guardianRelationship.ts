import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

export const guardianRelationship: Meaning = {
  id: "guardian.relationship",
  label: message("sheet.meaningGuardian"),
  part: message("sheet.partRelationship"),
  slotted: true,
  title: { what: { relation: 1, gender: 0.1 }, unsaid: 1, bare: 0.1 },
  cells: ({ tie, address, count, distinct, nameLike, values }) =>
    count === 0
      ? 0
      : address > 0.1 || nameLike < 0.5
        ? -8
        : tie > 0.5
          ? 4 * tie - (values === 1 && count > 3 ? 4.5 : 0)
          : distinct > 0.4
            ? -4
            : -1,
};

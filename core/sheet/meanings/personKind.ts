import { message } from "@amigo/language/message";
import type { Meaning } from "./meaning";

/** Whether a row is about a child or an adult, where each row is one person. */
export const personKind: Meaning = {
  id: "person.kind",
  label: message("sheet.meaningPersonKind"),
  slotted: false,
  title: { what: { relation: 0.5 }, unsaid: 1, bare: 0 },
  cells: ({ kinds }) => (kinds > 0.8 ? 6 : -8),
};

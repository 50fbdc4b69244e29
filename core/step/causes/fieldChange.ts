import { message, type Message } from "@amigo/language/message";

interface FieldChange {
  field: string;
  before: string;
  after: string;
}

/** A field of the sheets before and after. Those that Amigo knows have words of their own; others are titles of columns. */
export function fieldChange({ field, before, after }: FieldChange): Message {
  return message("step.fieldChange", { field, before, after });
}

/** The same as a part of the keys by which decisions are remembered, which stays as it is in every language. */
export function changeKey({ field, before, after }: FieldChange): string {
  return `${field} ${before || "none"} → ${after || "none"}`;
}

import { type CoreTextId } from "@amigo/language/message";

/** Returns what a shape answers where a value is wrong: the name of a text, which the server says in the house's language. */
export function wrong(text: CoreTextId): string {
  return text;
}

import { message, type Message } from "@amigo/language/message";
import { columnLetters } from "../sheet";

/** Returns a column as a sentence names it: by its title with its letter, or by its letter where it has no title. */
export function columnTitle({ title, index }: { title: string; index: number }): Message {
  return message("sheet.columnTitle", { title, letters: columnLetters(index) });
}

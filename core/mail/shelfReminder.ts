import { lines, message } from "@amigo/language/message";
import { oneHeaderLine } from "./headerText";
import type { Note } from "./returnNote";

/** The mail that reminds somebody of a thing on a shelf that they haven't opened. */
export function shelfReminder(of: {
  title: string;
  list: string;
  name: string;
  url: string;
}): Note {
  return {
    subject: message("mail.stillToOpen", { title: oneHeaderLine(of.title) }),
    text: lines(
      message("mail.notOpenedYet", { title: of.title, list: of.list }),
      `  ${of.url}`,
      "",
      message("mail.reminderIsFrom", { name: of.name }),
    ),
  };
}

import { lines, message, type Message, type Value } from "@amigo/language/message";
import { oneHeaderLine } from "./headerText";

/** A mail of Amigo's own, still without its envelope; the words of its messages are chosen where it is sent. */
export interface Note {
  subject: Message | string;
  text: Message | string;
}

/** The note by which a mail is returned to its sender: what it was, which list, why, and what to do. */
export function returnNote(mail: {
  subject: string;
  list: string;
  house: string;
  reasons: readonly Value[];
}): Note {
  const subject = oneHeaderLine(mail.subject) || message("mail.noSubject");
  return {
    subject: message("mail.returned", { subject }),
    text: lines(
      message("mail.yourMailToWasNot", { subject, list: mail.list }),
      "",
      message("mail.why"),
      ...mail.reasons.map((reason, index) =>
        message("mail.numbered", { number: String(index + 1), text: reason }),
      ),
      "",
      message("mail.ifYouWantToReach"),
      "",
      message("shared.thisNoteWasWrittenBy", { house: mail.house }),
    ),
  };
}

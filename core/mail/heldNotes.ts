import { lines, message } from "@amigo/language/message";
import { oneHeaderLine } from "./headerText";
import type { Note } from "./returnNote";

/** A held mail, as notes tell of it. */
export interface HeldMail {
  subject: string;
  from: string;
  list: string;
  house: string;
}

/** The short mail by which leads and helpers hear that a mail waits for them. What it says is behind the links, not in the mail; each opens a page and decides nothing by itself. */
export function heldNote(
  { subject, from, list, house }: HeldMail,
  links: { page: string; decide: string; days: number },
): Note {
  const about = oneHeaderLine(subject) || message("mail.noSubject");
  return {
    subject: message("mail.waitsForYou", { about }),
    text: lines(
      message("mail.aMailFromToWaits", { from: oneHeaderLine(from), list, about }),
      "",
      message("mail.sendItOut"),
      `${links.decide}?do=out`,
      message("mail.returnItToTheSender"),
      `${links.decide}?do=return`,
      message("mail.discardIt"),
      `${links.decide}?do=drop`,
      "",
      message("mail.allHeldMail"),
      links.page,
      "",
      message("mail.ifNobodyDecidesItIs", { days: links.days }),
      "",
      message("shared.thisNoteWasWrittenBy", { house }),
    ),
  };
}

/** The question to whom a mail claims to be from: whether it is theirs. */
export function isItYoursNote({ subject, list, house }: HeldMail, url: string): Note {
  const about = oneHeaderLine(subject) || message("mail.noSubject");
  return {
    subject: message("mail.didYouWriteThis", { about }),
    text: lines(
      message("mail.aMailInYourName", { list, about }),
      "",
      message("mail.nothingInItProvesThat"),
      url,
      "",
      message("mail.ifYouDidNotThere"),
      "",
      message("shared.thisNoteWasWrittenBy", { house }),
    ),
  };
}

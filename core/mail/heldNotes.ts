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

/** The pages of a held mail: where all are, where one decides on it, and for how many days. */
export interface HeldLinks {
  page: string;
  decide: string;
  days: number;
}

/** The short mail by which leads and helpers hear that a mail waits for them. What it says is behind the links, not in the mail; each opens a page and decides nothing by itself. */
export function heldNote({ subject, from, list, house }: HeldMail, links: HeldLinks): Note {
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

/** The mail by which leads and helpers hear of several that wait for them. Each has a page of its own on which they decide. */
export function manyHeldNote(
  told: readonly { held: HeldMail; links: HeldLinks }[],
  house: string,
): Note {
  const [first] = told;
  return {
    subject: message("mail.manyWaitForYou", { count: told.length }),
    text: lines(
      message("mail.theseMailsWait", { count: told.length }),
      ...told.flatMap(({ held, links }, index) => [
        "",
        message("mail.numbered", {
          number: String(index + 1),
          text: message("mail.heldLine", {
            from: oneHeaderLine(held.from),
            list: held.list,
            about: oneHeaderLine(held.subject) || message("mail.noSubject"),
          }),
        }),
        links.decide,
      ]),
      "",
      message("mail.allHeldMail"),
      first?.links.page ?? "",
      "",
      message("mail.ifNobodyDecidesItIs", { days: first?.links.days ?? 0 }),
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

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
  const about = oneHeaderLine(subject) || "(no subject)";
  return {
    subject: `Waits for you: ${about}`,
    text: [
      `A mail from ${oneHeaderLine(from)} to ${list} waits for your decision: "${about}".`,
      "",
      "Send it out:",
      `${links.decide}?do=out`,
      "Return it to the sender, with a message:",
      `${links.decide}?do=return`,
      "Discard it:",
      `${links.decide}?do=drop`,
      "",
      "All held mail:",
      links.page,
      "",
      `If nobody decides, it is returned after ${links.days} days. These links are for you alone.`,
      "",
      `This note was written by Amigo, which looks after the lists of ${house}.`,
    ].join("\r\n"),
  };
}

/** The question to whom a mail claims to be from: whether it is theirs. */
export function isItYoursNote({ subject, list, house }: HeldMail, url: string): Note {
  const about = oneHeaderLine(subject) || "(no subject)";
  return {
    subject: `Did you write this? ${about}`,
    text: [
      `A mail in your name came in for ${list}: "${about}".`,
      "",
      "Nothing in it proves that it is yours, so it was held. If you wrote it, say so here and it goes on its way:",
      url,
      "",
      "If you did not, there is nothing to do: without your word it goes to nobody. The link works once, for three days.",
      "",
      `This note was written by Amigo, which looks after the lists of ${house}.`,
    ].join("\r\n"),
  };
}

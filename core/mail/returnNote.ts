import { oneHeaderLine } from "./headerText";

/** A mail of Amigo's own, still without its envelope. */
export interface Note {
  subject: string;
  text: string;
}

/** The note by which a mail is returned to its sender: what it was, which list, why, and what to do. */
export function returnNote(mail: {
  subject: string;
  list: string;
  house: string;
  reasons: readonly string[];
}): Note {
  const subject = oneHeaderLine(mail.subject) || "(no subject)";
  return {
    subject: `Returned: ${subject}`,
    text: [
      `Your mail "${subject}" to ${mail.list} was not sent on to anybody.`,
      "",
      "Why:",
      ...mail.reasons.map((reason, index) => `${index + 1}. ${reason}`),
      "",
      `If you want to reach the people who run this list, reply to this mail.`,
      "",
      `This note was written by Amigo, which looks after the lists of ${mail.house}.`,
    ].join("\r\n"),
  };
}

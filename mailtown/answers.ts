import type { Letter } from "./mailboxes";

/** A mail that a mailbox sends by itself after it has taken a letter. */
export interface AnswerMail {
  /** The sender of the envelope: empty for a report. */
  from: string;
  to: string;
  raw: string;
}

type Answer = (letter: {
  mailbox: string;
  returnPath: string;
  subject: string;
  messageId: string;
  original: string;
}) => AnswerMail;

const HOST = "mx.mailtown.example";

function report(
  text: string,
  { mailbox, returnPath, original }: Parameters<Answer>[0],
  status: string,
  diagnostic: string,
  action = "failed",
): AnswerMail {
  const boundary = "mailtown-report";
  return {
    from: "",
    to: returnPath,
    raw: [
      `From: Mail Delivery <mailer-daemon@${HOST}>`,
      `To: ${returnPath}`,
      "Subject: Undelivered Mail Returned to Sender",
      `Date: ${new Date().toUTCString().replace("GMT", "+0000")}`,
      "Auto-Submitted: auto-replied",
      "MIME-Version: 1.0",
      `Content-Type: multipart/report; report-type=delivery-status; boundary="${boundary}"`,
      "",
      `--${boundary}`,
      "Content-Type: text/plain; charset=utf-8",
      "",
      text,
      "",
      `--${boundary}`,
      "Content-Type: message/delivery-status",
      "",
      `Reporting-MTA: dns; ${HOST}`,
      "",
      `Final-Recipient: rfc822; ${mailbox}`,
      `Action: ${action}`,
      `Status: ${status}`,
      `Diagnostic-Code: smtp; ${diagnostic}`,
      "",
      `--${boundary}`,
      "Content-Type: text/rfc822-headers",
      "",
      original,
      "",
      `--${boundary}--`,
      "",
    ].join("\r\n"),
  };
}

function plain(
  subject: string,
  lines: readonly string[],
  { returnPath }: Parameters<Answer>[0],
): AnswerMail {
  return {
    from: "",
    to: returnPath,
    raw: [
      `From: Mail Delivery <mailer-daemon@${HOST}>`,
      `To: ${returnPath}`,
      `Subject: ${subject}`,
      `Date: ${new Date().toUTCString().replace("GMT", "+0000")}`,
      "MIME-Version: 1.0",
      "Content-Type: text/plain; charset=utf-8",
      "Content-Transfer-Encoding: 8bit",
      "",
      ...lines,
      "",
    ].join("\r\n"),
  };
}

/** What mailboxes send back by themselves, by their behaviour: reports in several forms, and out-of-office notices. */
export const ANSWERS: Record<string, Answer> = {
  "gone later": (letter) =>
    report(
      "I could not deliver your message; it is attached below.",
      letter,
      "5.1.1",
      `550 5.1.1 <${letter.mailbox}>: no such user here`,
    ),
  "full later": (letter) =>
    report("The mailbox is over its quota.", letter, "5.2.2", "552 5.2.2 mailbox full"),
  "late report": (letter) =>
    report(
      "This is a warning only. You need not send it again.",
      letter,
      "4.4.1",
      "connection timed out",
      "delayed",
    ),
  "old transcript": (letter) =>
    plain(
      "Returned mail: see transcript for details",
      [
        "   ----- The following addresses had permanent fatal errors -----",
        `<${letter.mailbox}>`,
        "",
        "   ----- Transcript of session follows -----",
        `... while talking to ${HOST}.:`,
        ">>> RCPT To",
        `<<< 550 5.1.1 <${letter.mailbox}>... User unknown`,
      ],
      letter,
    ),
  "plain words": (letter) =>
    plain(
      "Unzustellbar: Ihre Nachricht",
      [
        "Ihre Nachricht konnte nicht zugestellt werden.",
        "",
        `Empfänger: ${letter.mailbox}`,
        "Grund: Das Postfach ist unbekannt",
      ],
      letter,
    ),
  "thinks it unwanted": (letter) =>
    report("Your message was refused.", letter, "5.7.1", "550 5.7.1 message rejected as spam"),
  "out of office": ({ mailbox, returnPath, subject, messageId }) => ({
    from: mailbox,
    to: returnPath,
    raw: [
      `From: ${mailbox}`,
      `To: ${returnPath}`,
      `Subject: Out of the office: ${subject}`,
      `Date: ${new Date().toUTCString().replace("GMT", "+0000")}`,
      "Auto-Submitted: auto-replied",
      ...(messageId === "" ? [] : [`In-Reply-To: ${messageId}`]),
      "MIME-Version: 1.0",
      "Content-Type: text/plain; charset=utf-8",
      "",
      "I am away until Monday and read this then.",
      "",
    ].join("\r\n"),
  }),
};

/** The header of a letter as a report quotes it, its subject and its id. */
export function quoted(letter: Letter): { original: string; subject: string; messageId: string } {
  const raw = Buffer.from(letter.raw, "base64").toString("latin1");
  const header = raw.slice(0, Math.max(0, raw.indexOf("\r\n\r\n")));
  const field = (name: string): string =>
    new RegExp(`^${name}:[ \\t]*([^]*?)(?=\\r\\n[^ \\t]|$(?![^]))`, "im")
      .exec(header)?.[1]
      ?.replace(/\r\n[ \t]+/g, " ")
      .trim() ?? "";
  return { original: header, subject: field("Subject"), messageId: field("Message-ID") };
}

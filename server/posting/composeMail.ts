import { randomUUID } from "node:crypto";
import MailComposer from "nodemailer/lib/mail-composer";
import type { Invitation } from "@amigo/core/calendar/writeInvitation";
import { oneHeaderLine } from "@amigo/core/mail/headerText";

/** A mail to be written as MIME. */
export interface MailToCompose {
  from: { name: string; address: string };
  to: { name: string; address: string }[];
  subject: string;
  text: string;
  domain: string;
  cc?: { name: string; address: string }[];
  html?: string;
  attachments?: { name: string; type: string; content: Buffer; cid: string }[];
  replyTo?: string;
  /** A whole message that goes along as it is (message/rfc822, RFC 2046 section 5.2.1). */
  attached?: Buffer;
  /** Further fields of the header. */
  fields?: Readonly<Record<string, string>>;
  /** The mail that it answers: its id, and the ids that stand before it in its thread (RFC 5322, section 3.6.4). */
  answers?: { messageId: string; references: string[] };
  /** A date for the recipient's calendar program, beside the text (RFC 6047, section 2.4). */
  calendar?: { method: Invitation["method"] | "REPLY"; content: string };
  /** How texts are encoded; else as it suits each. */
  encoding?: "quoted-printable";
  /** For Amigo's own notes: marked as automatic (RFC 3834, section 5). */
  automatic?: { inReplyTo: string | undefined };
}

/** Writes a mail as MIME octets; returns it with its message id. */
export async function composeMail(
  wanted: MailToCompose,
): Promise<{ raw: Buffer; messageId: string }> {
  const messageId = `<${randomUUID()}@${wanted.domain}>`;
  const reply = wanted.automatic?.inReplyTo;
  const composer = new MailComposer({
    from: { name: oneHeaderLine(wanted.from.name), address: wanted.from.address },
    to: wanted.to.map(({ name, address }) => ({ name: oneHeaderLine(name), address })),
    subject: oneHeaderLine(wanted.subject),
    text: wanted.text.replace(/\r?\n/g, "\r\n"),
    ...(wanted.cc === undefined || wanted.cc.length === 0
      ? {}
      : { cc: wanted.cc.map(({ name, address }) => ({ name: oneHeaderLine(name), address })) }),
    ...(wanted.html === undefined || wanted.html === "" ? {} : { html: wanted.html }),
    ...(wanted.replyTo === undefined ? {} : { replyTo: wanted.replyTo }),
    attachments: [
      ...(wanted.attachments ?? []).map(({ name, type, content, cid }) => ({
        filename: name,
        contentType: type,
        content,
        ...(cid === "" ? {} : { cid, contentDisposition: "inline" as const }),
      })),
      ...(wanted.attached === undefined
        ? []
        : [
            {
              filename: "message.eml",
              contentType: "message/rfc822",
              contentTransferEncoding: "8bit" as const,
              content: wanted.attached,
            },
          ]),
    ],
    ...(wanted.calendar === undefined
      ? {}
      : { icalEvent: { ...wanted.calendar, filename: "invitation.ics" } }),
    ...(wanted.encoding === undefined ? {} : { encoding: wanted.encoding }),
    messageId,
    date: new Date(),
    newline: "windows",
    headers: {
      ...wanted.fields,
      ...(wanted.automatic === undefined
        ? {}
        : {
            "Auto-Submitted": reply === undefined ? "auto-generated" : "auto-replied",
            Precedence: "bulk",
          }),
    },
    ...(reply === undefined ? {} : { inReplyTo: reply, references: [reply] }),
    ...(wanted.answers === undefined
      ? {}
      : {
          inReplyTo: wanted.answers.messageId,
          references: [...wanted.answers.references, wanted.answers.messageId],
        }),
  });
  return { raw: await composer.compile().build(), messageId };
}

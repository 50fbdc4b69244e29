import { simpleParser } from "mailparser";
import MailComposer from "nodemailer/lib/mail-composer";
import { fieldValue, splitMessage } from "@amigo/core/mail/splitMessage";

/** A mail that was put together in the composer, with subject and texts in place of its own; everything else stays as it is. */
export async function fillRaw(
  raw: Buffer,
  parts: { subject: string; text: string; html: string },
): Promise<Buffer> {
  const parsed = await simpleParser(raw, {
    skipTextToHtml: true,
    skipHtmlToText: true,
    skipImageLinks: true,
    skipTextLinks: true,
  });
  const split = splitMessage(raw);
  return new MailComposer({
    from: fieldValue(split, "from") ?? "",
    to: fieldValue(split, "to") ?? "",
    subject: parts.subject,
    text: parts.text,
    ...(parts.html === "" ? {} : { html: parts.html }),
    ...(parsed.messageId === undefined ? {} : { messageId: parsed.messageId }),
    ...(parsed.date === undefined ? {} : { date: parsed.date }),
    newline: "windows",
    attachments: parsed.attachments.map(({ filename, content, contentType, cid }) => ({
      ...(filename === undefined ? {} : { filename }),
      content,
      contentType,
      ...(cid === undefined ? {} : { cid }),
    })),
  })
    .compile()
    .build();
}

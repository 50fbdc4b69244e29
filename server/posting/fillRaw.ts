import { simpleParser } from "mailparser";
import MailComposer from "nodemailer/lib/mail-composer";
import { joinVersions, type Version } from "@amigo/core/mail/versions";
import { fieldValue, splitMessage } from "@amigo/core/mail/splitMessage";
import { asFile, languageParts } from "./languageParts";

/** What of a composed mail's header stays when its texts are filled in. */
const KEPT = ["From", "To", "Cc", "Message-ID", "In-Reply-To", "References", "Date"];

/**
 * Returns a mail that was put together in the composer with other texts in place of its own; its files, who wrote it and what
 * it answers stay as they are.
 *
 * @param versions what it says in each of its languages, its reader's first
 * @param asParts  whether each language gets a part of its own (RFC 8255), and not all stand below each other in one text
 */
export async function fillRaw(
  raw: Buffer,
  versions: readonly Version[],
  asParts = false,
): Promise<Buffer> {
  const { attachments } = await simpleParser(raw, {
    skipTextToHtml: true,
    skipHtmlToText: true,
    skipImageLinks: true,
    skipTextLinks: true,
  });
  const split = splitMessage(raw);
  const kept = Object.fromEntries(
    KEPT.flatMap((name) => {
      const value = fieldValue(split, name.toLowerCase());
      return value === undefined ? [] : [[name, value]];
    }),
  );
  const { subject, text, html } = joinVersions(versions);
  const languages: Record<string, string> =
    versions.length > 1
      ? { "Content-Language": versions.map(({ language }) => language).join(", ") }
      : {};
  if (asParts && versions.length > 1)
    return languageParts({
      fields: { ...kept, Subject: subject, "MIME-Version": "1.0", ...languages },
      from: kept.From ?? "",
      versions,
      files: attachments,
    });
  return new MailComposer({
    from: kept.From ?? "",
    to: kept.To ?? "",
    subject,
    text,
    ...(html === "" ? {} : { html }),
    ...(kept.Cc === undefined ? {} : { cc: kept.Cc }),
    ...(kept["Message-ID"] === undefined ? {} : { messageId: kept["Message-ID"] }),
    ...(kept["In-Reply-To"] === undefined ? {} : { inReplyTo: kept["In-Reply-To"] }),
    ...(kept.References === undefined ? {} : { references: kept.References }),
    ...(kept.Date === undefined ? {} : { date: kept.Date }),
    headers: languages,
    newline: "windows",
    attachments: attachments.map(asFile),
  })
    .compile()
    .build();
}

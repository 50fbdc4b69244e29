import type { Attachment } from "mailparser";
import MailComposer from "nodemailer/lib/mail-composer";
import MimeNode from "nodemailer/lib/mime-node";
import type { Version } from "@amigo/core/mail/versions";
import { inLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";

/** A mail that says the same in several languages. */
export interface MailInLanguages {
  /** Fields of its header, by name, but for those that say what it is made of. */
  fields: Readonly<Record<string, string>>;
  from: string;
  /** Its reader's language first. */
  versions: readonly Version[];
  files: readonly Attachment[];
}

/**
 * Returns a mail whose languages are parts of their own, of which a mail program shows its reader's: RFC 8255. A short text in
 * all languages comes first, for programs that don't know this (section 3.1), and each language is a whole message (3.2).
 * Pictures in the text go along with each.
 */
export async function languageParts({
  fields,
  from,
  versions,
  files,
}: MailInLanguages): Promise<Buffer> {
  const pictures = files.filter(({ cid }) => cid !== undefined);
  const others = files.filter(({ cid }) => cid === undefined);
  const root = new MimeNode(others.length === 0 ? "multipart/multilingual" : "multipart/mixed", {
    newline: "windows",
  });
  root.setHeader(Object.entries(fields).map(([key, value]) => ({ key, value })));
  const texts = others.length === 0 ? root : root.createChild("multipart/multilingual");
  texts
    .createChild("text/plain; charset=utf-8")
    .setContent(versions.map(({ language }) => inLanguage(language, preface)).join("\r\n\r\n"));
  for (const [at, version] of versions.entries())
    texts
      .createChild("message/rfc822")
      .setHeader([
        { key: "Content-Language", value: version.language },
        { key: "Content-Translation-Type", value: at === 0 ? "original" : "human" },
      ])
      .setContent(await asMessage(from, version, pictures));
  for (const { contentType, filename, content } of others)
    root.createChild(contentType, filename === undefined ? {} : { filename }).setContent(content);
  return root.build();
}

const preface = (): string => t("posting.thisMailSaysTheSame");

/** Returns a whole message in one language: RFC 8255, section 3.2. */
function asMessage(
  from: string,
  { subject, text, html }: Version,
  pictures: readonly Attachment[],
): Promise<Buffer> {
  return new MailComposer({
    from,
    subject,
    text,
    ...(html === "" ? {} : { html }),
    newline: "windows",
    attachments: pictures.map(asFile),
  })
    .compile()
    .build();
}

/** Returns a file of a mail as it goes into another. */
export function asFile({ filename, content, contentType, cid }: Attachment) {
  return {
    ...(filename === undefined ? {} : { filename }),
    content,
    contentType,
    ...(cid === undefined ? {} : { cid }),
  };
}

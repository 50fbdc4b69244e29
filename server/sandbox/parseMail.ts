import { simpleParser, type ParsedMail } from "mailparser";

/** Thrown where a mail is put together in such a way that no parser can read it: it never will be read, however often it is tried. */
export class Unreadable extends Error {}

/**
 * Parses a mail (RFC 5322, RFC 2045 to 2047), without making text of HTML or HTML of text.
 *
 * @throws Unreadable where the parser gives up, as on parts nested thousands deep
 */
export async function parseMail(raw: Uint8Array): Promise<ParsedMail> {
  try {
    return await simpleParser(Buffer.from(raw), {
      skipTextToHtml: true,
      skipImageLinks: true,
      skipHtmlToText: true,
      skipTextLinks: true,
    });
  } catch (failure) {
    throw new Unreadable("the mail can't be parsed", { cause: failure });
  }
}

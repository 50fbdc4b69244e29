import { simpleParser, type ParsedMail } from "mailparser";
import { Unreadable } from "./unreadable";

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

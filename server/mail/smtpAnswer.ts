/** An answer over SMTP: RFC 5321, section 4.2, with an enhanced status code as in RFC 3463. */
export class SmtpAnswer extends Error {
  constructor(
    readonly responseCode: number,
    message: string,
  ) {
    super(message);
  }
}

/** The longest text of an answer, in signs: a line has 512 octets at most (RFC 5321, section 4.5.3.1.5). */
const LONGEST = 400;

/** Returns a text as it may stand in an answer over SMTP: one line of ASCII. */
export function smtpText(text: string): string {
  const line = text
    .replace(/[“”„«»]/g, '"')
    .replace(/[‘’]/g, "'")
    .replace(/[–—]/g, "-")
    .normalize("NFKD")
    .replace(/\p{M}+/gu, "")
    .replace(/\s+/g, " ")
    .replace(/[^\x20-\x7e]/g, "?")
    .trim();
  return line.length <= LONGEST ? line : `${line.slice(0, LONGEST - 3).trimEnd()}...`;
}

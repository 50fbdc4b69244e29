import { fieldValue, type SplitMessage } from "./splitMessage";

/** What takes the place of a message's content fields and body, where a footer was added. */
export interface FooteredBody {
  /** Content fields with their line ends, in place of those of the message. */
  fields: string[];
  body: Uint8Array;
}

const PLAIN = /^text\/plain\b/i;
const encoder = new TextEncoder();

/**
 * Adds a footer to a message without touching what was there: at the end of a plain text in UTF-8 or ASCII that is not
 * encoded; else as a part of its own after the whole (RFC 2046, section 5.1.3). A signed or encrypted message stays whole
 * within its part.
 *
 * @param raw      the message, octets
 * @param boundary a text that stands nowhere in the message
 */
export function footerBody(
  raw: Uint8Array,
  split: SplitMessage,
  footer: string,
  boundary: string,
): FooteredBody {
  const lines = footer.replace(/\r?\n/g, "\r\n");
  const content = split.fields.filter(({ name }) => name.startsWith("content-"));
  const type = fieldValue(split, "content-type") ?? "text/plain; charset=us-ascii";
  const encoding = (fieldValue(split, "content-transfer-encoding") ?? "7bit").toLowerCase();
  const charset = /charset\s*=\s*"?([\w-]+)/i.exec(type)?.[1]?.toLowerCase() ?? "us-ascii";
  const ascii = /^[\x00-\x7f]*$/.test(lines);
  const body = raw.subarray(split.bodyAt);
  if (
    PLAIN.test(type) &&
    (encoding === "7bit" || encoding === "8bit") &&
    (charset === "utf-8" || (charset === "us-ascii" && ascii)) &&
    (ascii || encoding === "8bit") &&
    !/format\s*=\s*flowed/i.test(type)
  ) {
    const end = body.length > 0 && body[body.length - 1] !== 10 ? "\r\n" : "";
    return {
      fields: content.map(({ raw: field }) => field),
      body: concat([body, encoder.encode(`${end}\r\n-- \r\n${lines}\r\n`)]),
    };
  }
  const inner =
    content.length === 0
      ? ["Content-Type: text/plain; charset=us-ascii"]
      : content.map(({ raw: field }) => field);
  const start = `--${boundary}\r\n${inner.join("\r\n")}\r\n\r\n`;
  const last = `\r\n--${boundary}\r\nContent-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: base64\r\nContent-Disposition: inline\r\n\r\n${base64Lines(lines)}\r\n--${boundary}--\r\n`;
  return {
    fields: [`Content-Type: multipart/mixed; boundary="${boundary}"`],
    body: concat([latin1(start), body, encoder.encode(last)]),
  };
}

/** Octets of a header that was read as Latin-1, as they were. */
function latin1(text: string): Uint8Array {
  return Uint8Array.from(text, (sign) => sign.charCodeAt(0));
}

function base64Lines(text: string): string {
  return (btoa(String.fromCharCode(...encoder.encode(text))).match(/.{1,76}/g) ?? []).join("\r\n");
}

function concat(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

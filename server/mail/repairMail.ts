import { isAscii, isUtf8 } from "node:buffer";
import { encode as toBase64, wrap as wrapBase64 } from "nodemailer/lib/base64";
import { encode as toQuotedPrintable, wrap as wrapQuotedPrintable } from "nodemailer/lib/qp";
import { headerText } from "@amigo/core/mail/headerText";
import { mailDate } from "@amigo/core/mail/receivedField";
import { fieldValue, splitMessage, type RawField } from "@amigo/core/mail/splitMessage";

/** The longest line that may be sent, in octets, its line break aside: RFC 5322, section 2.1.1. */
const LONGEST_LINE = 998;
/** How deep parts within parts are looked into. */
const DEEPEST = 20;
/** Fields whose value is a text, which may be written in encoded words: RFC 2047, section 5. */
const TEXTS = new Set(["subject", "comments", "keywords", "organization"]);
/** What is signed or encrypted is passed on to the octet, or it is worth nothing. */
const SEALED = /^multipart\/(signed|encrypted)\b/i;

/**
 * Returns a mail as it may be sent to any mail server: lines of at most 998 octets, every part with octets beyond ASCII
 * labelled or encoded (RFC 2045, section 6), header fields in ASCII, with a date and an id (RFC 5322, section 3.6). Parts that are
 * right stay as they are to the octet; a mail that is right altogether is returned itself.
 *
 * @param at what the date is where it has none
 * @param messageId what its id is where it has none
 */
export function repairMail(raw: Buffer, at: Date, messageId: string): Buffer {
  const { fields, bodyAt } = splitMessage(raw);
  const missing = [
    ...(has(fields, "date") ? [] : [`Date: ${mailDate(at)}`]),
    ...(has(fields, "message-id") ? [] : [`Message-ID: ${messageId}`]),
  ];
  const isHeaderRight = missing.length === 0 && isAscii(raw.subarray(0, bodyAt));
  if (isHeaderRight && isAscii(raw) && !hasLongLine(raw)) return raw;
  const part = repairPart(fields, raw.subarray(bodyAt), 0);
  if (part === undefined && isHeaderRight) return raw;
  const header = [
    ...missing.map((line): RawField => ({ name: "", raw: line })),
    ...(part?.fields ?? fields).map(inAscii),
  ];
  return joined(header, part?.body ?? raw.subarray(bodyAt));
}

/** Returns whether a signed or encrypted mail has lines that no mail server has to take: it can't be made right without breaking it. */
export function isBeyondRepair(raw: Buffer): boolean {
  const split = splitMessage(raw);
  return (
    SEALED.test(fieldValue(split, "content-type") ?? "") && hasLongLine(raw.subarray(split.bodyAt))
  );
}

interface Part {
  fields: readonly RawField[];
  body: Buffer;
}

/** Makes one part right, with the parts within it; undefined where it is right. */
function repairPart(fields: readonly RawField[], body: Buffer, depth: number): Part | undefined {
  const type = valueOf(fields, "content-type") || "text/plain";
  if (SEALED.test(type) || depth > DEEPEST) return undefined;
  if (/^multipart\//i.test(type)) {
    const boundary = /\bboundary\s*=\s*(?:"([^"]{1,200})"|([^\s;"]{1,200}))/i.exec(type);
    const name = (boundary?.[1] ?? boundary?.[2] ?? "").trimEnd();
    return name === "" ? undefined : repairParts(fields, body, name, depth);
  }
  const encoding = valueOf(fields, "content-transfer-encoding").toLowerCase();
  if (/^message\/rfc822\b/i.test(type) && /^(7bit|8bit|binary|)$/.test(encoding)) {
    const inner = partIn(body);
    const made = repairPart(inner.fields, inner.body, depth + 1);
    return made === undefined ? undefined : { fields, body: joined(made.fields, made.body) };
  }
  return repairLeaf(fields, body, type, encoding);
}

function repairParts(
  fields: readonly RawField[],
  body: Buffer,
  boundary: string,
  depth: number,
): Part | undefined {
  const pieces = piecesOf(body, boundary);
  let changed = false;
  const made = pieces.map((piece, at) => {
    // What stands before the first delimiter, the delimiters themselves, and what follows the last.
    if (at % 2 === 0) return piece;
    const inner = partIn(piece);
    const repaired = repairPart(inner.fields, inner.body, depth + 1);
    if (repaired === undefined) return piece;
    changed = true;
    return joined(repaired.fields, repaired.body);
  });
  return changed ? { fields, body: Buffer.concat(made) } : undefined;
}

/** A body in pieces: every second one is a part, the others are what stands between parts, delimiters included. */
function piecesOf(body: Buffer, boundary: string): Buffer[] {
  const mark = Buffer.from(`--${boundary}`, "latin1");
  const pieces: Buffer[] = [];
  let from = 0;
  let inPart = false;
  for (let at = body.indexOf(mark); at >= 0; at = body.indexOf(mark, at + mark.length)) {
    if (at > 0 && body[at - 1] !== 10) continue;
    const end = body.indexOf(10, at);
    const line = body.subarray(at + mark.length, end < 0 ? body.length : end).toString("latin1");
    if (!/^(--)?[ \t]*\r?$/.test(line)) continue;
    // The line break before a delimiter belongs to it: RFC 2046, section 5.1.1.
    const delimiter = at >= 2 && body[at - 2] === 13 ? at - 2 : Math.max(0, at - 1);
    if (inPart) {
      pieces.push(body.subarray(from, Math.max(from, delimiter)));
      from = Math.max(from, delimiter);
      inPart = false;
    }
    if (line.startsWith("--") || end < 0) break;
    pieces.push(body.subarray(from, end + 1));
    from = end + 1;
    inPart = true;
  }
  pieces.push(body.subarray(from));
  return pieces;
}

function repairLeaf(
  fields: readonly RawField[],
  body: Buffer,
  type: string,
  encoding: string,
): Part | undefined {
  const isLong = hasLongLine(body);
  if (encoding === "base64")
    return isLong
      ? { fields, body: asBase64(Buffer.from(body.toString("latin1"), "base64")) }
      : undefined;
  const isPlain = isAscii(body);
  const isLabelled = encoding === "8bit" || encoding === "quoted-printable";
  if (!isLong && (isPlain || isLabelled)) return undefined;
  if (encoding === "quoted-printable") return undefined;
  const isText = /^text\//i.test(type);
  return {
    fields: [
      ...fields.filter(
        ({ name }) =>
          name !== "content-transfer-encoding" && !(name === "content-type" && isText && !isPlain),
      ),
      ...(isText && !isPlain
        ? [{ name: "content-type", raw: `Content-Type: ${withCharset(type, body)}` }]
        : []),
      {
        name: "content-transfer-encoding",
        raw: `Content-Transfer-Encoding: ${isText ? "quoted-printable" : "base64"}`,
      },
    ],
    body: isText ? asQuotedPrintable(body) : asBase64(body),
  };
}

function asQuotedPrintable(body: Buffer): Buffer {
  return Buffer.from(
    wrapQuotedPrintable(toQuotedPrintable(body)).replace(/\r?\n/g, "\r\n"),
    "latin1",
  );
}

function asBase64(body: Buffer): Buffer {
  return Buffer.from(`${wrapBase64(toBase64(body))}\r\n`, "latin1");
}

/** The type of a text, with its charset: the one given, else UTF-8 if the text is valid UTF-8. */
function withCharset(type: string, body: Buffer): string {
  return /\bcharset\s*=/i.test(type)
    ? type
    : `${type.replace(/[;\s]+$/, "")}; charset=${isUtf8(body) ? "utf-8" : "windows-1252"}`;
}

/** A header field in ASCII. What may be a text is written in encoded words; elsewhere octets beyond ASCII become `?`. */
function inAscii({ name, raw }: RawField): RawField {
  const octets = Buffer.from(raw, "latin1");
  if (isAscii(octets)) return { name, raw };
  if (!TEXTS.has(name)) return { name, raw: raw.replace(/[^\x00-\x7f]+/g, "?") };
  const colon = raw.indexOf(":");
  const value = octets.subarray(colon + 1);
  const text = (isUtf8(value) ? value.toString("utf8") : value.toString("latin1"))
    .replace(/\r?\n[ \t]/g, " ")
    .trim();
  return { name, raw: `${raw.slice(0, colon)}: ${headerText(text)}` };
}

function hasLongLine(octets: Buffer): boolean {
  let from = 0;
  for (let end = octets.indexOf(10); end >= 0; end = octets.indexOf(10, from)) {
    if (end - from - (octets[end - 1] === 13 ? 1 : 0) > LONGEST_LINE) return true;
    from = end + 1;
  }
  return octets.length - from > LONGEST_LINE;
}

/** A part without a header begins with an empty line. */
function partIn(octets: Buffer): Part {
  const start = octets.subarray(0, 2).toString("latin1");
  if (start.startsWith("\n") || start === "\r\n")
    return { fields: [], body: octets.subarray(start.startsWith("\n") ? 1 : 2) };
  const { fields, bodyAt } = splitMessage(octets);
  return { fields, body: octets.subarray(bodyAt) };
}

function joined(fields: readonly RawField[], body: Buffer): Buffer {
  const header = fields.map(({ raw }) => `${raw}\r\n`).join("");
  return Buffer.concat([Buffer.from(`${header}\r\n`, "latin1"), body]);
}

function has(fields: readonly RawField[], name: string): boolean {
  return fields.some((field) => field.name === name);
}

function valueOf(fields: readonly RawField[], name: string): string {
  const found = fields.find((field) => field.name === name)?.raw ?? "";
  return found
    .slice(found.indexOf(":") + 1)
    .replace(/\r?\n[ \t]/g, " ")
    .trim();
}

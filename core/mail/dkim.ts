import type { RawField } from "./splitMessage";

const SPACE = 32;
const TAB = 9;
const RETURN = 13;
const NEWLINE = 10;

/** A body in relaxed form: runs of space as one, none at line ends, no empty lines at the end (RFC 6376, section 3.4.4). */
export function relaxedBody(body: Uint8Array): Uint8Array {
  const made = new Uint8Array(body.length + 2);
  let to = 0;
  let lastLine = 0;
  let isSpace = false;
  for (const octet of body) {
    if (octet === SPACE || octet === TAB) {
      isSpace = true;
      continue;
    }
    if (octet === RETURN) continue;
    if (octet === NEWLINE) {
      isSpace = false;
      made[to++] = RETURN;
      made[to++] = NEWLINE;
      continue;
    }
    if (isSpace) {
      made[to++] = SPACE;
      isSpace = false;
    }
    made[to++] = octet;
    lastLine = to;
  }
  if (lastLine === 0) return new Uint8Array(0);
  made[lastLine] = RETURN;
  made[lastLine + 1] = NEWLINE;
  return made.subarray(0, lastLine + 2);
}

/** A field in relaxed form: its name in small letters, unfolded, runs of space as one (RFC 6376, section 3.4.2). */
export function relaxedField(raw: string): string {
  const colon = raw.indexOf(":");
  return `${raw.slice(0, colon).trim().toLowerCase()}:${raw
    .slice(colon + 1)
    .replace(/\r\n/g, "")
    .replace(/[ \t]+/g, " ")
    .trim()}`;
}

/** The fields that a signature of ours covers, where they are there. Those for leaving are among them (RFC 8058, section 4). */
const SIGNED = [
  "from",
  "reply-to",
  "to",
  "subject",
  "date",
  "message-id",
  "in-reply-to",
  "references",
  "mime-version",
  "content-type",
  "content-transfer-encoding",
  "list-id",
  "list-post",
  "list-help",
  "list-owner",
  "list-unsubscribe",
  "list-unsubscribe-post",
  "archived-at",
  "auto-submitted",
];

/** What is to be signed, and the field that carries the signature, still without it. */
export interface ToSign {
  data: string;
  /** The field up to where its signature in base64 goes. */
  field: string;
}

/**
 * Prepares a DKIM signature (RFC 6376, section 3.5 and 3.7; RFC 8463), relaxed for header and body.
 *
 * @param bodyHash the SHA-256 of the relaxed body, in base64
 * @param at       when it is signed, in seconds since 1970
 */
export function toSign(
  fields: readonly RawField[],
  {
    domain,
    selector,
    algorithm,
    bodyHash,
    at,
  }: {
    domain: string;
    selector: string;
    algorithm: "rsa-sha256" | "ed25519-sha256";
    bodyHash: string;
    at: number;
  },
): ToSign {
  const covered = SIGNED.flatMap((name) => {
    const field = fields.find((rawField) => rawField.name === name);
    return field === undefined ? [] : [field];
  });
  // From is named once more than it is there, so that nobody can add a second one (section 5.4.2).
  const names = [...covered.map(({ name }) => name), "from"];
  const field = `DKIM-Signature: v=1; a=${algorithm}; c=relaxed/relaxed; d=${domain}; s=${selector};\r\n t=${at}; h=${names
    .join(":")
    .replace(/(.{1,60}):/g, "$1:\r\n ")
    .replace(/\r\n $/, "")};\r\n bh=${bodyHash};\r\n b=`;
  return {
    field,
    data: `${covered.map(({ raw }) => `${relaxedField(raw)}\r\n`).join("")}${relaxedField(field)}`,
  };
}

import { isAscii } from "node:buffer";
import { createHash } from "node:crypto";
import { Readable } from "node:stream";
import { sealMessage, type ARCSealOptions } from "mailauth";
import { say } from "@amigo/language/say";
import { copyHeader } from "@amigo/core/mail/copyHeader";
import { personalHeader } from "@amigo/core/mail/personalHeader";
import { relaxedBody, toSign, type ToSign } from "@amigo/core/mail/dkim";
import { footerBody } from "@amigo/core/mail/footerBody";
import { endOfHeader, splitMessage, type SplitMessage } from "@amigo/core/mail/splitMessage";
import type { Rules } from "@amigo/core/posting/rules/rule";
import type { Signer } from "./mailKeys";

/** What an ARC set covers of a copy: all that is the same for every recipient. */
const SEALED =
  "from:to:subject:date:message-id:reply-to:list-id:mime-version:content-type:content-transfer-encoding";

/** A stored message, read once for all of its copies. */
export interface StoredMessage {
  id: string;
  raw: Buffer;
  split: SplitMessage;
  arc: { cv: "none" | "pass"; results: string } | null;
}

/** The list whose copy it is. */
export interface CopyList {
  id: string;
  name: string;
  title: string;
  domain: string;
  rules: Rules;
}

export interface CopyPost {
  id: string;
  fromName: string;
  fromAddress: string;
  reaches: string;
  asList: boolean;
}

/**
 * What all copies of one post to one list have in common. In those for outside members only the place of the copy's own token
 * is left open; those for inside members hold none, so that one signature is good for all of them.
 */
export interface Prepared {
  body: readonly Uint8Array[];
  /** Whether the body has octets beyond ASCII. */
  is8Bit: boolean;
  outside: PreparedHeader;
  inside: PreparedHeader & { head?: Promise<Buffer> };
}

interface PreparedHeader {
  /** The whole header, with an ARC set (RFC 8617) before it where something is to be passed on. */
  header: string;
  signatures: readonly OpenSignature[];
}

/** A signature that is still to be made: by whom, of what, and the field for it. */
export interface OpenSignature extends ToSign {
  signer: Signer;
}

/** Stands for the copy's token where it will be. */
const TOKEN = "0copys0own0token0";

/** Takes a stored message apart. */
export function openMessage({
  id,
  raw,
  arc,
}: {
  id: string;
  raw: Buffer;
  arc: StoredMessage["arc"];
}): StoredMessage {
  return { id, raw, arc, split: splitMessage(raw) };
}

/** Works out once what the copies of a post to a list have in common. The footer's boundary is the post's, so that all bodies are one. */
export async function prepare(
  stored: StoredMessage,
  of: CopyList,
  by: CopyPost,
  signers: readonly Signer[],
  url: string,
  now: Date,
): Promise<Prepared> {
  const { raw, split } = stored;
  const ended =
    of.rules.footer === "" || by.reaches === "leads"
      ? undefined
      : footerBody(raw, split, of.rules.footer, `amigo-${by.id}`);
  const body = ended === undefined ? raw.subarray(split.bodyAt) : ended.body;
  const hash = hashOf(body);
  const headerFor = (leaveUrl: string | undefined): PreparedHeader => {
    const header = headerOf(stored, of, by, ended?.fields, url, leaveUrl);
    return { header, signatures: signaturesOf(signers, header, of.domain, hash, now) };
  };
  const [outside, inside] = [headerFor(`${url}/leave/${TOKEN}`), headerFor(undefined)];
  const is8Bit = !isAscii(body);
  const sealer = signers.find(({ algorithm }) => algorithm === "rsa-sha256");
  if (stored.arc === null || sealer === undefined) return { body: [body], is8Bit, outside, inside };
  // The library takes the names as one text, other than its types say.
  const sealed = await sealMessage(Buffer.concat([Buffer.from(outside.header, "latin1"), body]), {
    signingDomain: of.domain,
    selector: sealer.selector,
    privateKey: sealer.pem,
    authResults: stored.arc.results,
    cv: stored.arc.cv,
    headerList: SEALED,
  } as unknown as ARCSealOptions).catch(() => undefined);
  const seal = sealed === undefined ? "" : sealed.toString("latin1");
  return {
    body: [body],
    is8Bit,
    outside: { ...outside, header: `${seal}${outside.header}` },
    inside: { ...inside, header: `${seal}${inside.header}` },
  };
}

/** Works out once what the copies of a mail to people and single addresses have in common: all of it, but for their envelopes. */
export function preparePersonal(
  { raw, split }: StoredMessage,
  by: CopyPost,
  house: { name: string; domain: string },
  signers: readonly Signer[],
  now: Date,
): Prepared {
  const body = raw.subarray(split.bodyAt);
  const header = personalHeader(
    split,
    { name: by.fromName, address: by.fromAddress },
    { name: house.name, address: `postmaster@${house.domain}` },
    say,
  );
  const signatures = signaturesOf(signers, header, house.domain, hashOf(body), now);
  const shared = { header, signatures };
  return { body: [body], is8Bit: !isAscii(body), outside: shared, inside: { ...shared } };
}

/** Up to how many octets a copy is put together whole; a larger one is streamed, so that it is in memory once. */
const WHOLE = 256 * 1024;
/** The size of the pieces in which a large body is handed to the SMTP client, in octets: it copies each piece while sending. */
const PIECE = 64 * 1024;

/** One recipient's copy: the header, for outside members with the copy's own token, signed for the list's domain, and the body that all share. */
export async function makeCopy(
  { body, outside, inside }: Prepared,
  to: { token: string; inside: boolean },
): Promise<Buffer | Readable> {
  const head = to.inside
    ? await (inside.head ??= headOf(inside, ""))
    : await headOf(outside, to.token);
  if (body.reduce((sum, { length }) => sum + length, 0) <= WHOLE)
    return Buffer.concat([head, ...body]);
  return Readable.from(
    (function* () {
      yield head;
      for (const part of body)
        for (let at = 0; at < part.length; at += PIECE) yield part.subarray(at, at + PIECE);
    })(),
    { objectMode: false },
  );
}

async function headOf({ header, signatures }: PreparedHeader, token: string): Promise<Buffer> {
  const filled = signatures.map(({ data, ...rest }) => ({
    ...rest,
    data: data.replaceAll(TOKEN, token),
  }));
  return Buffer.from(`${await signed(filled)}${header.replaceAll(TOKEN, token)}`, "latin1");
}

/** Returns the hash of a body as a signature holds it (RFC 6376, section 3.7). */
export function hashOf(body: Uint8Array): string {
  return createHash("sha256").update(relaxedBody(body)).digest("base64");
}

/** Returns the signatures to be made of a header, with their fields. */
export function signaturesOf(
  signers: readonly Signer[],
  header: string,
  domain: string,
  bodyHash: string,
  now: Date,
): OpenSignature[] {
  const { fields } = splitMessage(Buffer.from(header, "latin1"));
  const at = Math.floor(now.getTime() / 1000);
  return signers.map((signer) => ({
    signer,
    ...toSign(fields, {
      ...{ domain, bodyHash, at },
      ...{ selector: signer.selector, algorithm: signer.algorithm },
    }),
  }));
}

/** Returns the fields of signatures with the signatures in them. */
export async function signed(signatures: readonly OpenSignature[]): Promise<string> {
  const fields = await Promise.all(
    signatures.map(async ({ signer, field, data }) => {
      const signature = await signer.sign(Buffer.from(data, "latin1"));
      return `${field}${signature.replace(/(.{70})(?=.)/g, "$1\r\n ")}\r\n`;
    }),
  );
  return fields.join("");
}

/** The whole of a mail of Amigo's own, signed. */
export async function signNote(
  raw: Buffer,
  domain: string,
  signers: readonly Signer[],
  now: Date,
): Promise<Buffer> {
  const bodyAt = endOfHeader(raw);
  const header = raw.subarray(0, bodyAt).toString("latin1");
  const signatures = signaturesOf(signers, header, domain, hashOf(raw.subarray(bodyAt)), now);
  return Buffer.concat([Buffer.from(await signed(signatures), "latin1"), raw]);
}

function headerOf(
  { split }: StoredMessage,
  of: CopyList,
  by: CopyPost,
  content: readonly string[] | undefined,
  url: string,
  leaveUrl: string | undefined,
): string {
  const toLeads = by.reaches === "leads";
  return copyHeader(
    split,
    of,
    {
      from: { name: by.fromName, address: by.fromAddress },
      leaveUrl,
      oneClick: of.rules.leaving === "by oneself",
      toLeads,
      asList: by.asList,
      say,
      archivedAt: of.rules.archive === "none" || toLeads ? undefined : `${url}/posts/${by.id}`,
    },
    content,
  );
}

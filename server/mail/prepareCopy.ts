import { createHash, sign } from "node:crypto";
import { Readable } from "node:stream";
import { promisify } from "node:util";
import { sealMessage, type ARCSealOptions } from "mailauth";
import { copyHeader } from "@amigo/core/mail/copyHeader";
import { relaxedBody, toSign } from "@amigo/core/mail/dkim";
import { footerBody } from "@amigo/core/mail/footerBody";
import { splitMessage, type SplitMessage } from "@amigo/core/mail/splitMessage";
import type { Rules } from "@amigo/core/posting/rules/rule";
import { SELECTOR, type DkimKey } from "./dkimKey";

const signAsync = promisify(sign);

/** What an ARC set covers of a copy: all that is the same for every recipient. */
const SEALED = "from:to:subject:date:message-id:reply-to:list-id:mime-version:content-type:content-transfer-encoding";

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

/** What all copies of one post to one list have in common: their body with the footer, its hash, the ARC set. */
export interface Prepared {
  body: readonly Uint8Array[];
  content: readonly string[] | undefined;
  bodyHash: string;
  /** The fields of an ARC set (RFC 8617), each with its line end; empty where nothing is to be passed on. */
  arc: string;
}

/** Takes a stored message apart. */
export function openMessage({ id, raw, arc }: { id: string; raw: Buffer; arc: StoredMessage["arc"] }): StoredMessage {
  return { id, raw, arc, split: splitMessage(raw) };
}

/** Works out once what the copies of a post to a list have in common. The footer's boundary is the post's, so that all bodies are one. */
export async function prepare(stored: StoredMessage, of: CopyList, by: CopyPost, dkim: DkimKey, url: string): Promise<Prepared> {
  const { raw, split } = stored;
  const ended = of.rules.footer === "" || by.reaches === "leads" ? undefined : footerBody(raw, split, of.rules.footer, `amigo-${by.id}`);
  const body = ended === undefined ? raw.subarray(split.bodyAt) : ended.body;
  const bodyHash = createHash("sha256").update(relaxedBody(body)).digest("base64");
  const prepared = { body: [body], content: ended?.fields, bodyHash, arc: "" };
  if (stored.arc === null) return prepared;
  const header = headerOf(stored, of, by, prepared, { url, token: "" });
  // The library takes the names as one text, other than its types say.
  const sealed = await sealMessage(Buffer.concat([Buffer.from(header, "latin1"), body]), { signingDomain: of.domain, selector: SELECTOR, privateKey: dkim.pem, authResults: stored.arc.results, cv: stored.arc.cv, headerList: SEALED } as unknown as ARCSealOptions).catch(() => undefined);
  return { ...prepared, arc: sealed === undefined ? "" : sealed.toString("latin1") };
}

/** One recipient's copy: its own header, signed for the list's domain, and the body that all share, as a stream. */
export async function makeCopy(stored: StoredMessage, of: CopyList, by: CopyPost, prepared: Prepared, dkim: DkimKey, { url, token, now }: { url: string; token: string; now: Date }): Promise<Readable> {
  const header = headerOf(stored, of, by, prepared, { url, token });
  const signature = await signatureOf(header, of.domain, prepared.bodyHash, dkim, now);
  const whole = Buffer.from(`${prepared.arc}${signature}${header}`, "latin1");
  return Readable.from((function* () { yield whole; yield* prepared.body; })(), { objectMode: false });
}

/** The DKIM-Signature field for a header and the hash of its body, with its line end. */
export async function signatureOf(header: string, domain: string, bodyHash: string, dkim: DkimKey, now: Date): Promise<string> {
  const { fields } = splitMessage(Buffer.from(header, "latin1"));
  const { field, data } = toSign(fields, { domain, selector: SELECTOR, bodyHash, at: Math.floor(now.getTime() / 1000) });
  const signature = (await signAsync("sha256", Buffer.from(data, "latin1"), dkim.key)).toString("base64");
  return `${field}${signature.replace(/(.{70})(?=.)/g, "$1\r\n ")}\r\n`;
}

/** The whole of a mail of Amigo's own, signed. */
export async function signNote(raw: Buffer, domain: string, dkim: DkimKey, now: Date): Promise<Buffer> {
  const { bodyAt } = splitMessage(raw);
  const header = raw.subarray(0, bodyAt).toString("latin1");
  const bodyHash = createHash("sha256").update(relaxedBody(raw.subarray(bodyAt))).digest("base64");
  return Buffer.concat([Buffer.from(await signatureOf(header, domain, bodyHash, dkim, now), "latin1"), raw]);
}

function headerOf({ split }: StoredMessage, of: CopyList, by: CopyPost, prepared: Pick<Prepared, "content">, { url, token }: { url: string; token: string }): string {
  const toLeads = by.reaches === "leads";
  return copyHeader(split, of, { from: { name: by.fromName, address: by.fromAddress }, leaveUrl: `${url}/leave/${token}`, oneClick: of.rules.leaving === "by oneself", toLeads, asList: by.asList, archivedAt: of.rules.archive === "none" || toLeads ? undefined : `${url}/posts/${by.id}` }, prepared.content);
}

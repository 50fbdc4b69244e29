import { canonicalAddress } from "@amigo/core/address/domainName";
import { authenticate, type DNSResolver } from "mailauth";
import addressparser from "nodemailer/lib/addressparser";
import type { SplitMessage } from "@amigo/core/mail/splitMessage";
import { trustedResults } from "@amigo/core/mail/trustedResults";

/** How a mail came in over SMTP: the network address of whoever sent it, what they called themselves, the envelope's sender. */
export interface Envelope {
  /** Undefined where a mail server of our own took the mail first and did not say from where. */
  ip: string | undefined;
  helo: string;
  returnPath: string;
  /** By what name that mail server says what it found out; empty where none is in front. */
  front?: string;
  /** Our own name, for what is passed on. */
  mta: string;
}

/**
 * What was found: for which addresses a signature proves the mail to be its From line's, whether SPF does, and what is passed
 * on in an ARC set (RFC 8617) where a signature or such a set came with the mail.
 */
export interface Proven {
  /** The addresses in the signed To and Cc, in small letters. Empty where no signature proves anything. */
  signedTo: string[];
  spf: boolean;
  /** Of the signatures that prove something, the hash of each: the same one twice is the same mail twice, whatever else is written on it. */
  signatures: string[];
  /** Whether the address in the envelope is its sender's own: SPF passes for its domain, or a signature of that domain's. Only then it is answered. */
  isAnswerable: boolean;
  /** Why no mail server would take it: the domain of its From line asks that such mail be refused (DMARC), or that of the envelope names no such sender (SPF). */
  refusal: "dmarc" | "spf" | undefined;
  /** Whether the domain of the envelope or of the From line itself says that this is none of its mail (SPF fails, or DMARC does). */
  isForged: boolean;
  arc: { cv: "none" | "pass"; results: string } | null;
}

export const NOTHING_PROVEN: Proven = {
  signedTo: [],
  spf: false,
  signatures: [],
  isAnswerable: false,
  refusal: undefined,
  isForged: false,
  arc: null,
};

/** How long the look into the DNS may take, in milliseconds. A mail without an answer by then is without proof. */
const PATIENCE = 8_000;
/** How many signatures of a mail are checked: its first ones. The others prove nothing. */
const MOST_SIGNATURES = 10;
/** A signature is of now, not of last year: mail that waits longer than five days is returned by its sender's system (RFC 5321, section 4.5.4.1). */
const OLDEST = 6 * 86_400_000;
const AHEAD = 86_400_000;

/** Fields of which a message has one at most (RFC 5322, section 3.6): a second one is there to show something else than what was signed. */
const SINGLE = ["from", "sender", "reply-to", "to", "cc", "subject", "date", "message-id"];

type Checked = Awaited<ReturnType<typeof authenticate>>;
/** A signature as it was checked, with what the library's own types leave out. */
type Signature = Checked["dkim"]["results"][number] & {
  signingHeaders?: { headers: string[] };
  signTime?: string | null;
  canonBodyLengthLimited?: boolean;
  algo?: string;
  /** The hash of the signature itself. */
  id?: string;
};

/**
 * What proves that a mail from elsewhere is its From line's: a DKIM signature that is aligned with the From domain
 * (RFC 6376, RFC 7489 section 3.1.1), or SPF of a relay that the domain names (RFC 7208), aligned likewise.
 *
 * A signature proves only what it covers: it must be of the last days, cover the whole body and From, Subject and Date, and
 * it speaks for the addresses in the To and Cc that it covers. So a signed mail to somebody else, sent on to a list, or with
 * other words added to it, proves nothing here.
 */
export async function proofOf(
  raw: Buffer,
  split: SplitMessage,
  from: string,
  envelope: Envelope,
  resolver: DNSResolver,
  now = new Date(),
): Promise<Proven> {
  const domain = domainOf(from);
  if (domain === "" || !from.includes("@")) return NOTHING_PROVEN;
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<undefined>((resolve) => {
    timer = setTimeout(() => resolve(undefined), PATIENCE);
  });
  try {
    const found = await Promise.race([
      authenticate(withoutSurplus(raw, split), {
        ...(envelope.ip === undefined
          ? {}
          : { ip: envelope.ip, helo: envelope.helo, sender: envelope.returnPath }),
        mta: envelope.mta,
        resolver,
        disableBimi: true,
      }),
      late,
    ]);
    if (found === undefined) return NOTHING_PROVEN;
    const arc = arcOf(found);
    const isPlain = SINGLE.every(
      (name) => split.fields.filter((field) => field.name === name).length <= 1,
    );
    const spf = spfOf(found, split, envelope);
    const told = { arc, ...standingOf(found, spf, domain, envelope.returnPath) };
    if (!isPlain || found.dkim.headerFrom?.length !== 1) return { ...NOTHING_PROVEN, ...told };
    const covering = found.dkim.results.filter((signature) =>
      covers(signature, split, domain, now),
    );
    return {
      signedTo: covering.flatMap(addressedIn),
      signatures: covering.flatMap(({ id = "" }) => (id === "" ? [] : [id])),
      spf: spf.result === "pass" && sameOrganisation(spf.domain, domain),
      ...told,
    };
  } catch {
    return NOTHING_PROVEN;
  } finally {
    clearTimeout(timer);
  }
}

/** What SPF says, found out by ourselves or by our own mail server in front. */
interface Spf {
  result: string;
  domain: string;
  /** What that server says of DMARC; empty where it says nothing. */
  dmarc: string;
  /** Whether we have found it out. What the server in front finds it has refused itself, or passes on on purpose. */
  isOurs: boolean;
}

function spfOf({ spf }: Checked, split: SplitMessage, { ip, front = "" }: Envelope): Spf {
  const told = trustedResults(split, front);
  if (told !== undefined)
    return { result: told.spf, domain: told.spfDomain, dmarc: told.dmarc, isOurs: false };
  const found = spf === false || ip === undefined ? undefined : spf;
  return {
    result: found?.status.result ?? "none",
    domain: found?.domain ?? "",
    dmarc: "",
    isOurs: ip !== undefined,
  };
}

/** What the sender's own domains say of a mail: whether it may be answered, is forged, or is to be refused at once (RFC 7208, section 8.4; RFC 7489, section 6.6.2). */
function standingOf(
  { dkim, dmarc }: Checked,
  spf: Spf,
  domain: string,
  returnPath: string,
): Pick<Proven, "isAnswerable" | "isForged" | "refusal"> {
  const said = dmarc === false ? undefined : dmarc;
  const signers = dkim.results.flatMap((signature: Signature) =>
    signature.status.result === "pass" && isSound(signature) ? [signature.signingDomain ?? ""] : [],
  );
  const fails = said?.status.result === "fail" || spf.dmarc === "fail";
  return {
    isAnswerable:
      returnPath !== "" &&
      ((spf.result === "pass" && sameOrganisation(spf.domain, domainOf(returnPath))) ||
        signers.some((signer) => sameOrganisation(signer, domainOf(returnPath)))),
    isForged: ["fail", "softfail"].includes(spf.result) || fails,
    // A mail that was passed on comes from elsewhere, but keeps its signature.
    refusal:
      fails && said?.policy === "reject" && spf.isOurs
        ? "dmarc"
        : spf.result === "fail" &&
            spf.isOurs &&
            !signers.some((signer) => sameOrganisation(signer, domain))
          ? "spf"
          : undefined,
  };
}

function domainOf(address: string): string {
  return address.slice(address.lastIndexOf("@") + 1);
}

/** The message without the signatures beyond the first ten; the very same where it has no more. */
function withoutSurplus(raw: Buffer, { fields, bodyAt }: SplitMessage): Buffer {
  let met = 0;
  const kept = fields.filter(({ name }) => name !== "dkim-signature" || ++met <= MOST_SIGNATURES);
  if (kept.length === fields.length) return raw;
  return Buffer.concat([
    Buffer.from(`${kept.map((field) => field.raw).join("\r\n")}\r\n\r\n`, "latin1"),
    raw.subarray(bodyAt),
  ]);
}

/** Whether a signature is right, aligned, of now, and covers all that people see of the mail. */
function covers(
  signature: Signature,
  { fields }: SplitMessage,
  domain: string,
  now: Date,
): boolean {
  const { status, signingHeaders, signTime } = signature;
  if (status.result !== "pass" || !isAligned(status.aligned, domain) || !isSound(signature))
    return false;
  const signed = new Set(
    (signingHeaders?.headers ?? []).map((line) =>
      line.slice(0, line.indexOf(":")).trim().toLowerCase(),
    ),
  );
  const isSeen = (name: string): boolean =>
    signed.has(name) || !fields.some((field) => field.name === name);
  if (!["from", "subject", "date"].every(isSeen)) return false;
  const dated =
    signTime ?? (signed.has("date") ? valueOf(signingHeaders?.headers, "date") : undefined);
  const at = dated === undefined || dated === null ? NaN : Date.parse(dated);
  return at >= now.getTime() - OLDEST && at <= now.getTime() + AHEAD;
}

/** Whether a signature covers the whole body, by a hash that still holds: RFC 6376, section 8.2; RFC 8301, section 3.1. */
function isSound({ canonBodyLengthLimited, algo = "" }: Signature): boolean {
  return canonBodyLengthLimited !== true && !/sha1$/i.test(algo);
}

/** The addresses of the signed To and Cc. */
function addressedIn({ signingHeaders }: Signature): string[] {
  return ["to", "cc"].flatMap((name) =>
    addressparser(valueOf(signingHeaders?.headers, name) ?? "", { flatten: true }).flatMap(
      ({ address }) => (address === undefined ? [] : [canonicalAddress(address)]),
    ),
  );
}

function valueOf(lines: readonly string[] | undefined, name: string): string | undefined {
  const line = lines?.find(
    (candidate) => candidate.slice(0, candidate.indexOf(":")).trim().toLowerCase() === name,
  );
  return line
    ?.slice(line.indexOf(":") + 1)
    .replace(/\r?\n[ \t]/g, " ")
    .trim();
}

/** What an ARC set would say of a mail; null where nothing came that could be vouched for, or its chain is broken. */
function arcOf({ arc, dkim }: Checked): Proven["arc"] {
  if (arc === false) return null;
  const cv = arc.status.result;
  const isSigned =
    cv === "pass" ||
    dkim.results.some(({ signingDomain }) => signingDomain !== undefined && signingDomain !== "");
  return isSigned && (cv === "none" || cv === "pass") && typeof arc.authResults === "string"
    ? { cv, results: arc.authResults }
    : null;
}

/** mailauth answers the domain of the signature where it is aligned with the From domain. */
function isAligned(aligned: string | boolean | undefined, domain: string): boolean {
  return typeof aligned === "string" && sameOrganisation(aligned, domain);
}

/** The same domain, or one below the other: narrower than "relaxed" alignment, as no list of public suffixes is asked. */
function sameOrganisation(one: string, other: string): boolean {
  const [a, b] = [one.toLowerCase(), other.toLowerCase()];
  return a !== "" && (a === b || a.endsWith(`.${b}`) || b.endsWith(`.${a}`));
}

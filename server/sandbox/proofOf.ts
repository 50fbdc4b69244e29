import { authenticate, type DNSResolver } from "mailauth";
import addressparser from "nodemailer/lib/addressparser";
import type { SplitMessage } from "@amigo/core/mail/splitMessage";

/** How a mail came in over SMTP: the network address of whoever sent it, what they called themselves, the envelope's sender. */
export interface Envelope {
  ip: string;
  helo: string;
  returnPath: string;
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
  /** Whether the domain of the envelope or of the From line itself says that this is none of its mail (SPF fails, or DMARC does). */
  isForged: boolean;
  arc: { cv: "none" | "pass"; results: string } | null;
}

export const NOTHING_PROVEN: Proven = { signedTo: [], spf: false, isForged: false, arc: null };

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
  const domain = from.slice(from.lastIndexOf("@") + 1);
  if (domain === "" || !from.includes("@")) return NOTHING_PROVEN;
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<undefined>((resolve) => {
    timer = setTimeout(() => resolve(undefined), PATIENCE);
  });
  try {
    const found = await Promise.race([
      authenticate(withoutSurplus(raw, split), {
        ip: envelope.ip,
        helo: envelope.helo,
        sender: envelope.returnPath,
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
    const spf = found.spf === false ? undefined : found.spf;
    const isForged =
      ["fail", "softfail"].includes(spf?.status.result ?? "") ||
      (found.dmarc !== false && found.dmarc?.status.result === "fail");
    if (!isPlain || found.dkim.headerFrom?.length !== 1)
      return { ...NOTHING_PROVEN, arc, isForged };
    return {
      signedTo: found.dkim.results.flatMap((signature) =>
        covers(signature, split, domain, now) ? addressedIn(signature) : [],
      ),
      spf: spf?.status.result === "pass" && sameOrganisation(spf.domain ?? "", domain),
      isForged,
      arc,
    };
  } catch {
    return NOTHING_PROVEN;
  } finally {
    clearTimeout(timer);
  }
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
  { status, signingHeaders, signTime, canonBodyLengthLimited }: Signature,
  { fields }: SplitMessage,
  domain: string,
  now: Date,
): boolean {
  if (status.result !== "pass" || !isAligned(status.aligned, domain)) return false;
  if (canonBodyLengthLimited === true) return false;
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

/** The addresses of the signed To and Cc. */
function addressedIn({ signingHeaders }: Signature): string[] {
  return ["to", "cc"].flatMap((name) =>
    addressparser(valueOf(signingHeaders?.headers, name) ?? "", { flatten: true }).flatMap(
      ({ address }) => (address === undefined ? [] : [address.toLowerCase()]),
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

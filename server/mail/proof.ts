import { authenticate, type DNSResolver } from "mailauth";
import type { Proof } from "@amigo/core/posting/mailToJudge";

/** How a mail came in over SMTP. */
export interface Connection {
  /** The network address of whoever sent it, and what they called themselves. */
  ip: string;
  helo: string;
}

/** What was found: the proof, and what is passed on of it in an ARC set (RFC 8617) where a signature or such a set came with the mail. */
export interface Proven {
  proof: Proof;
  arc: { cv: "none" | "pass"; results: string } | null;
}

const NOTHING: Proven = { proof: "none", arc: null };

/** How long the look into the DNS may take, in milliseconds. A mail without an answer by then is without proof. */
const PATIENCE = 8_000;

/**
 * What proves that a mail from elsewhere is its From line's: a DKIM signature that is aligned with the From domain
 * (RFC 6376, RFC 7489 section 3.1.1), or SPF of a relay that the domain names (RFC 7208), aligned likewise. Exactly one
 * From line must be there; of several, nothing can be proven.
 */
export async function proofOf(
  raw: Buffer,
  from: string,
  envelope: { returnPath: string } & Connection,
  resolver: DNSResolver,
  mta: string,
): Promise<Proven> {
  const domain = from.slice(from.lastIndexOf("@") + 1);
  if (domain === "" || !from.includes("@")) return NOTHING;
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<undefined>((resolve) => {
    timer = setTimeout(() => resolve(undefined), PATIENCE);
  });
  try {
    const found = await Promise.race([
      authenticate(raw, {
        ip: envelope.ip,
        helo: envelope.helo,
        sender: envelope.returnPath,
        mta,
        resolver,
        disableBimi: true,
      }),
      late,
    ]);
    if (found === undefined) return NOTHING;
    const arc = arcOf(found);
    if (found.dkim.headerFrom === undefined || found.dkim.headerFrom.length !== 1)
      return { proof: "none", arc };
    if (
      found.dkim.results.some(
        ({ status }) => status.result === "pass" && isAligned(status.aligned, domain),
      )
    )
      return { proof: "dkim", arc };
    const spf = found.spf === false ? undefined : found.spf;
    return {
      proof:
        spf?.status.result === "pass" && sameOrganisation(spf.domain ?? "", domain)
          ? "spf"
          : "none",
      arc,
    };
  } catch {
    return NOTHING;
  } finally {
    clearTimeout(timer);
  }
}

/** What an ARC set would say of a mail; null where nothing came that could be vouched for, or its chain is broken. */
function arcOf({ arc, dkim }: Awaited<ReturnType<typeof authenticate>>): Proven["arc"] {
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

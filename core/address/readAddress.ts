import { message, type Message } from "@amigo/language/message";
import { isOneSlip } from "../text/slip";
import { OF_LISTS, type KnownDomains } from "./learnDomains";
import { tidyAddress } from "./tidyAddress";
import { type AddressReading, unusable } from "./addressReading";

/** The longest address and the longest part before the @, in octets: RFC 5321, section 4.5.3.1. */
const LONGEST_ADDRESS = 254;
const LONGEST_MAILBOX = 64;

/** A dot-atom as RFC 5322, section 3.2.3 has it, with the letters that RFC 6532 adds. */
const MAILBOX =
  /^[\p{L}\p{N}\p{M}!#$%&'*+/=?^_`{|}~-]+(\.[\p{L}\p{N}\p{M}!#$%&'*+/=?^_`{|}~-]+)*$/u;

/** A label of a domain as the DNS has it: RFC 1123, section 2.1. */
const DOMAIN_LABEL = /^[a-z0-9]([a-z0-9-]*[a-z0-9])?$/;

/** A domain counts as one that many in the house use from this many addresses on. */
const MANY = 3;

/**
 * Reads one written address.
 *
 * @param written the text of one cell or one piece of a paste
 * @param known   the domains of the house's own addresses, with how often each is used
 * @returns *clean* with what was tidied (nothing that was meant is lost), *probably meant* with a
 *   proposal and why, or *unusable* with its fault. Letter case is folded throughout: no mail system
 *   in use tells two mailboxes apart by it (RFC 5321, section 2.4 discourages that they do).
 */
export function readAddress(written: string, known: KnownDomains): AddressReading {
  const tidy = tidyAddress(written);
  if ("answer" in tidy) return tidy;
  const parts = partsOf(tidy.text, known);
  if ("answer" in parts) return parts;
  return (
    commasIn(parts, known) ??
    faultOfParts(parts, known) ??
    slipOf(parts, known) ?? { answer: "clean", address: tidy.text, tidied: tidy.tidied }
  );
}

/** An address in its two parts, the domain in its labels. */
interface Parts {
  mailbox: string;
  domain: string;
  labels: string[];
}

/** Takes an address apart at its @; returns what is wrong where there are not two parts of a possible length. */
function partsOf(text: string, known: KnownDomains): Parts | AddressReading {
  const at = text.indexOf("@");
  if (at < 0) return unusable("no-at", noAtReason(text, known));
  if (text.indexOf("@", at + 1) >= 0)
    return unusable("several-at", message("address.thereIsMoreThanOne2"));
  const mailbox = text.slice(0, at);
  const domain = text.slice(at + 1);
  if (mailbox === "") return unusable("no-mailbox", message("address.nothingIsBeforeThe2"));
  if (domain === "") return unusable("no-domain", message("address.nothingIsAfterThe"));
  if (octets(text) > LONGEST_ADDRESS || octets(mailbox) > LONGEST_MAILBOX)
    return unusable("too-long", message("address.itIsLongerThanAn2"));
  return { mailbox, domain, labels: domain.split(".") };
}

/** Returns an address whose commas were meant as dots, or undefined where there is no comma. */
function commasIn({ mailbox, domain }: Parts, known: KnownDomains): AddressReading | undefined {
  if (!domain.includes(",") && !mailbox.includes(",")) return undefined;
  const repaired = `${mailbox.replace(/,/g, ".")}@${domain.replace(/,/g, ".")}`;
  const again = readAddress(repaired, known);
  if (again.answer === "unusable") return unusable("bad-sign", message("address.itContainsAComma"));
  return {
    answer: "probably",
    address: again.address,
    fault: "comma-for-dot",
    why: message("address.commaForDot", usedBy(again.address, known)),
  };
}

/** Returns what is wrong with the signs of a mailbox or with a domain, or undefined. A domain without its ending is completed. */
function faultOfParts(
  { mailbox, domain, labels }: Parts,
  known: KnownDomains,
): AddressReading | undefined {
  if (!MAILBOX.test(mailbox))
    return unusable("bad-sign", message("address.thereIsACharacterBefore"));
  if (labels.length < 2) {
    const whole = [...known.keys()].find(
      (candidate) => candidate.split(".")[0] === domain && (known.get(candidate) ?? 0) >= MANY,
    );
    if (whole === undefined)
      return unusable("no-domain", message("address.isNotAWholeDomain", { domain }));
    return {
      answer: "probably",
      address: `${mailbox}@${whole}`,
      fault: "impossible-domain",
      why: message("address.domainNotWhole", usedBy(`${mailbox}@${whole}`, known)),
    };
  }
  return labels.every((label) => label.length <= 63 && DOMAIN_LABEL.test(label))
    ? undefined
    : unusable("bad-sign", message("address.cantBeADomain", { domain }));
}

/** Returns what was probably meant by a domain that is one slip away from one that many use, or why it can't be one. */
function slipOf(
  { mailbox, domain, labels }: Parts,
  known: KnownDomains,
): AddressReading | undefined {
  const uses = known.get(domain) ?? 0;
  if (uses === OF_LISTS) return unusable("of-a-list", message("address.isTheAddressOfAList"));
  if (uses < MANY)
    for (const [candidate, itsUses] of known)
      if (itsUses >= MANY && itsUses > uses * 5 && isOneSlip(domain, candidate))
        return {
          answer: "probably",
          address: `${mailbox}@${candidate}`,
          fault: "domain-slip",
          why: message("address.domainSlip", usedBy(`${mailbox}@${candidate}`, known)),
        };
  const top = labels[labels.length - 1] ?? "";
  return /^\d+$/.test(top) || top.length < 2
    ? unusable("no-domain", message("address.noDomainEndsIn", { top }))
    : undefined;
}

function octets(text: string): number {
  return new TextEncoder().encode(text).length;
}

/** What fills a sentence about a domain: the domain, and by how many addresses it is used here; 0 where that proves nothing. */
function usedBy(address: string, known: KnownDomains): { domain: string; uses: number } {
  const domain = address.slice(address.indexOf("@") + 1);
  const uses = known.get(domain) ?? 0;
  return { domain, uses: uses > 1 ? uses : 0 };
}

function noAtReason(text: string, known: KnownDomains): Message {
  const end = [...known.keys()].find(
    (domain) => (known.get(domain) ?? 0) >= MANY && text.endsWith(domain),
  );
  return end === undefined
    ? message("address.noAt")
    : message("address.noAtButDomain", { domain: end, uses: known.get(end) ?? 0 });
}

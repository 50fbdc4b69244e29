import { message, type Message } from "@amigo/language/message";
import { isOneSlip } from "../text/slip";
import { withoutInvisible } from "../text/tidy";
import { trimSigns } from "../text/trimSigns";
import type { KnownDomains } from "./learnDomains";

/** What is wrong with a written address, or was before it was tidied. */
export type AddressFault =
  | "invisible"
  | "spaces"
  | "mailto"
  | "angle-name"
  | "trailing-dot"
  | "double-at"
  | "upper-case"
  | "comma-for-dot"
  | "domain-slip"
  | "impossible-domain"
  | "no-at"
  | "no-domain"
  | "no-mailbox"
  | "none-word"
  | "words-beside"
  | "several-at"
  | "bad-sign"
  | "too-long";

/** The answer to one written address: clean, probably meant, or unusable. */
export type AddressReading =
  | { answer: "clean"; address: string; tidied: AddressFault[] }
  | { answer: "probably"; address: string; fault: AddressFault; why: Message }
  | { answer: "unusable"; fault: AddressFault; why: Message };

/** Words by which people say that there is no address. */
const NONE_WORDS = new Set([
  "",
  "-",
  "--",
  "–",
  "—",
  "?",
  "??",
  "???",
  "n/a",
  "n.a.",
  "na",
  "none",
  "no",
  "nil",
  "nothing",
  "unknown",
  "tba",
  "tbc",
  "x",
  "xx",
  "no email",
  "no address",
  "not given",
  "see above",
  "as above",
  "same",
  "no e-mail",
  "no mail",
  "no e-mail address",
  "no email address",
  "has none",
  "doesn't have one",
  "does not have one",
  "not available",
  "not applicable",
  "unavailable",
  "declined",
  "refused",
  "keine",
  "keiner",
  "kein",
  "k.a.",
  "k. a.",
  "aucun",
  "aucune",
  "néant",
  "ninguno",
  "ninguna",
  "no tiene",
  "nenhum",
  "nessuno",
  "nessuna",
  "geen",
  "n.v.t.",
  "nvt",
  "ingen",
  "saknas",
  "ei ole",
  "brak",
  "není",
  "nemá",
  "yok",
]);

/** The longest address and the longest part before the @, in octets: RFC 5321, section 4.5.3.1. */
const LONGEST_ADDRESS = 254;
const LONGEST_MAILBOX = 64;

/** A dot-atom as RFC 5322, section 3.2.3 has it, with the letters that RFC 6532 adds. */
const MAILBOX =
  /^[\p{L}\p{N}\p{M}!#$%&'*+/=?^_`{|}~-]+(\.[\p{L}\p{N}\p{M}!#$%&'*+/=?^_`{|}~-]+)*$/u;
const DOMAIN_LABEL = /^[\p{L}\p{N}\p{M}]([\p{L}\p{N}\p{M}-]*[\p{L}\p{N}\p{M}])?$/u;

/** No address with a remark is longer; what is, is read as it stands. */
const LONGEST_CELL = 1000;

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
  const tidied: AddressFault[] = [];
  let text = withoutInvisible(written);
  if (text.trim() !== written.trim()) tidied.push("invisible");
  text = text.trim();
  if (NONE_WORDS.has(trimSigns(text, "([", ")]").trim().toLowerCase()))
    return unusable("none-word", message("address.thereIsNoAddressHere"));

  const angle = /^[^<>]*<([^<>]+)>[.,;]?$/.exec(text);
  if (angle?.[1] !== undefined) {
    text = angle[1].trim();
    tidied.push("angle-name");
  }
  if (/^mailto:/i.test(text)) {
    text = text
      .replace(/^mailto:/i, "")
      .replace(/\?.*$/, "")
      .trim();
    tidied.push("mailto");
  }
  const bare = text.length > LONGEST_CELL ? text : withoutRemark(text);
  if (bare !== text) {
    text = bare;
    tidied.push("angle-name");
  }
  text = trimSigns(text, "\"'(<[", "\"')>]");
  if (/\s/.test(text)) {
    const squeezed = text
      .split(/([@.,])/)
      .map((part) => part.trim())
      .join("");
    if (/\s/.test(squeezed)) {
      return squeezed.includes("@")
        ? unusable("bad-sign", message("address.thereIsMoreThanOne3"))
        : unusable("no-at", message("address.noAt"));
    }
    text = squeezed;
    tidied.push("spaces");
  }
  if (/[.;,]$/.test(text)) {
    text = trimSigns(text, "", ".;,");
    tidied.push("trailing-dot");
  }
  if (/@{2,}/.test(text)) {
    text = text.replace(/@{2,}/g, "@");
    tidied.push("double-at");
  }
  if (text !== text.toLowerCase()) {
    text = text.toLowerCase();
    tidied.push("upper-case");
  }

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

  if (domain.includes(",") || mailbox.includes(",")) {
    const repaired = `${mailbox.replace(/,/g, ".")}@${domain.replace(/,/g, ".")}`;
    const again = readAddress(repaired, known);
    if (again.answer === "unusable")
      return unusable("bad-sign", message("address.itContainsAComma"));
    return {
      answer: "probably",
      address: again.address,
      fault: "comma-for-dot",
      why: message("address.commaForDot", usedBy(again.address, known)),
    };
  }
  if (!MAILBOX.test(mailbox))
    return unusable("bad-sign", message("address.thereIsACharacterBefore"));
  const labels = domain.split(".");
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
  if (!labels.every((label) => label.length <= 63 && DOMAIN_LABEL.test(label)))
    return unusable("bad-sign", message("address.cantBeADomain", { domain }));

  const foundUses = known.get(domain) ?? 0;
  if (foundUses < MANY) {
    for (const [candidate, uses] of known) {
      if (uses >= MANY && uses > foundUses * 5 && isOneSlip(domain, candidate)) {
        return {
          answer: "probably",
          address: `${mailbox}@${candidate}`,
          fault: "domain-slip",
          why: message("address.domainSlip", usedBy(`${mailbox}@${candidate}`, known)),
        };
      }
    }
  }
  const top = labels[labels.length - 1] ?? "";
  if (/^\d+$/.test(top) || top.length < 2)
    return unusable("no-domain", message("address.noDomainEndsIn", { top }));
  return { answer: "clean", address: text, tidied };
}

/** Without a remark in brackets before or behind the address (a comment of RFC 5322, section 3.2.2). */
function withoutRemark(text: string): string {
  const without = text.replace(/\([^()@]*\)/g, " ").trim();
  return without.includes("@") ? without : text;
}

function unusable(fault: AddressFault, why: Message): AddressReading {
  return { answer: "unusable", fault, why };
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

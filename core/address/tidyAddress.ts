import { message } from "@amigo/language/message";
import { withoutInvisible } from "../text/tidy";
import { trimSigns } from "../text/trimSigns";
import { canonicalAddress } from "./domainName";
import { type AddressFault, type AddressReading, unusable } from "./addressReading";

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

/** No address with a remark is longer; what is, is read as it stands. */
const LONGEST_CELL = 1000;

/** Takes away what stands around an address and in it by mistake; returns what is left, or why there is no address. */
export function tidyAddress(
  written: string,
): { text: string; tidied: AddressFault[] } | AddressReading {
  const tidied: AddressFault[] = [];
  let text = withoutInvisible(written);
  if (text.trim() !== written.trim()) tidied.push("invisible");
  text = text.trim();
  if (NONE_WORDS.has(trimSigns(text, "([", ")]").trim().toLowerCase()))
    return unusable("none-word", message("address.thereIsNoAddressHere"));
  text = unwrapped(text, tidied);
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
  return { text: canonicalAddress(text), tidied };
}

/** Takes an address out of a name with angle brackets, a link or a remark, and adds what it was to `tidied`. */
function unwrapped(written: string, tidied: AddressFault[]): string {
  let text = written;
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
  return trimSigns(text, "\"'(<[", "\"')>]");
}

/** Without a remark in brackets before or behind the address (a comment of RFC 5322, section 3.2.2). */
function withoutRemark(text: string): string {
  const without = text.replace(/\([^()@]*\)/g, " ").trim();
  return without.includes("@") ? without : text;
}

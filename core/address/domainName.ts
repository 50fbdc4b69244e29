import punycode from "punycode.js";

const LONGEST_DOMAIN = 255;

/**
 * Returns a domain as the DNS has it: in small ASCII letters, every label with other letters as an A-label (RFC 5890, section
 * 2.3.2.1), so that a domain that is written in two ways is one. What can't be a domain comes back in small letters.
 */
export function asciiDomain(domain: string): string {
  const small = domain.toLowerCase();
  if (/^[\x00-\x7f]*$/.test(small) || small.length > LONGEST_DOMAIN) return small;
  // A host of a web address is mapped as UTS 46 says; whatever could be another part of one doesn't stand in a domain.
  if (/[\s/?#@:%[\]\\]/.test(small)) return small;
  try {
    return new URL(`http://${small}`).hostname;
  } catch {
    return small;
  }
}

/** Returns an address in its one form: small letters, composed (NFC), its domain as the DNS has it. */
export function canonicalAddress(address: string): string {
  const small = address.normalize("NFC").toLowerCase();
  const at = small.lastIndexOf("@");
  return at < 0 ? small : `${small.slice(0, at + 1)}${asciiDomain(small.slice(at + 1))}`;
}

/**
 * Returns an address for people to read: a domain of other letters in these letters. It stays as the DNS has it where it could be
 * taken for another: letters of several scripts in one label, or such as all look like Latin ones (UTS 39, sections 4 and 5).
 */
export function readableAddress(address: string): string {
  const at = address.lastIndexOf("@");
  const domain = address.slice(at + 1);
  if (!/(^|\.)xn--/.test(domain)) return address;
  try {
    const readable = punycode.toUnicode(domain);
    return readable.split(".").every(isPlain) && asciiDomain(readable) === domain
      ? `${address.slice(0, at + 1)}${readable}`
      : address;
  } catch {
    return address;
  }
}

/** Scripts that are written together in one word. */
const TOGETHER = [
  /^[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}ーa-z\d-]+$/u,
  /^[\p{Script=Han}\p{Script=Bopomofo}a-z\d-]+$/u,
  /^[\p{Script=Han}\p{Script=Hangul}a-z\d-]+$/u,
];

const ALONE = [
  "Latin Greek Cyrillic Armenian Hebrew Arabic Devanagari Bengali Gurmukhi Gujarati Tamil Telugu Kannada Malayalam Sinhala Thai",
  "Lao Khmer Myanmar Georgian Ethiopic",
]
  .join(" ")
  .split(" ")
  .map((script) => new RegExp(`^[\\p{Script=${script}}\\p{M}\\d-]+$`, "u"));

/** Letters of Cyrillic and Greek that look like Latin ones, in small. */
const LIKE_LATIN = /^[авсԁеѕһіјкӏмнорԛгтѵԝхуαβεικνορτυχωμηγ\d-]+$/u;

/** Letters of Latin that look like others, or like signs: ı, ɑ, ǃ and their kind. */
const DOUBTFUL_LATIN = /[ıɑɡʟƽʃǀ-ǃ\u0250-\u02ff]/u;

function isPlain(label: string): boolean {
  if (/^[a-z\d-]*$/.test(label)) return true;
  if (LIKE_LATIN.test(label) || DOUBTFUL_LATIN.test(label)) return false;
  return [...ALONE, ...TOGETHER].some((script) => script.test(label));
}

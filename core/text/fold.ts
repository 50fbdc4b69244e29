/** Letters that Unicode does not take apart into a base letter and a mark. */
const WHOLE_LETTERS: Record<string, string> = {
  ß: "ss",
  æ: "ae",
  œ: "oe",
  ø: "o",
  đ: "d",
  ð: "d",
  þ: "th",
  ł: "l",
  ħ: "h",
  ı: "i",
  ŋ: "ng",
  ŧ: "t",
  ĸ: "k",
};

/**
 * Folds a text for comparison: lower case, diacritics gone, apostrophes gone, every other run
 * of signs a single space. `"Ó'Donovan-Łoz"` becomes `"odonovan loz"`.
 */
export function fold(text: string): string {
  const known = KNOWN.get(text);
  if (known !== undefined) return known;
  const folded = foldAnew(text);
  if (text.length <= SHORT) {
    if (KNOWN.size >= MOST) KNOWN.clear();
    KNOWN.set(text, folded);
  }
  return folded;
}

/** The same few names, classes and titles are folded over and over; what is short is remembered, up to this many. */
const KNOWN = new Map<string, string>();
const SHORT = 80;
const MOST = 60_000;

function foldAnew(text: string): string {
  return text
    .normalize("NFKD")
    .replace(/\p{M}+/gu, "")
    .toLowerCase()
    .replace(/[ßæœøđðþłħıŋŧĸ]/g, (letter) => WHOLE_LETTERS[letter] ?? letter)
    .replace(/['’ʼ`´]/g, "")
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim();
}

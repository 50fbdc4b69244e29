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

/**
 * Marks that change how a letter is said but not which letter it is: accents of Latin, Greek and Cyrillic, points of Hebrew,
 * vowels of Arabic. In other scripts a mark is a letter of its own, such as a vowel in Hindi or Thai, and stays.
 */
const ACCENTS =
  /[\u0300-\u036f\u0483-\u0487\u0591-\u05bd\u05bf\u05c1\u05c2\u05c4\u05c5\u05c7\u0610-\u061a\u0640\u064b-\u065f\u0670\u06d6-\u06dc\u06df-\u06e8\u06ea-\u06ed\u1ab0-\u1aff\u1dc0-\u1dff\u20d0-\u20ff\ufe00-\ufe0f\ufe20-\ufe2f]+/g;

/** Returns a text in small letters without accents, its other signs as they are. */
export function withoutAccents(text: string): string {
  return text
    .normalize("NFKD")
    .replace(ACCENTS, "")
    .toLowerCase()
    .replace(/[ßæœøđðþłħıŋŧĸ]/g, (letter) => WHOLE_LETTERS[letter] ?? letter);
}

function foldAnew(text: string): string {
  return withoutAccents(text)
    .replace(/['’ʼ`´]/g, "")
    .replace(/[^\p{L}\p{N}\p{M}]+/gu, " ")
    .normalize("NFC")
    .trim();
}

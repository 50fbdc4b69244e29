/** Letters that Unicode does not take apart into a base letter and a mark. */
const WHOLE_LETTERS: Record<string, string> = {
  ß: "ss", æ: "ae", œ: "oe", ø: "o", đ: "d", ð: "d", þ: "th", ł: "l", ħ: "h", ı: "i", ŋ: "ng", ŧ: "t", ĸ: "k",
};

/**
 * Folds a text for comparison: lower case, diacritics gone, apostrophes gone, every other run
 * of signs a single space. `"Ó'Donovan-Łoz"` becomes `"odonovan loz"`.
 */
export function fold(text: string): string {
  return text
    .normalize("NFKD")
    .replace(/\p{M}+/gu, "")
    .toLowerCase()
    .replace(/[ßæœøđðþłħıŋŧĸ]/g, (letter) => WHOLE_LETTERS[letter] ?? letter)
    .replace(/['’ʼ`´]/g, "")
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim();
}

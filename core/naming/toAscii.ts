/** Letters of scripts that have a settled way to be written in Latin ones; what is not here is spelt by its code point. */
const CYRILLIC: Record<string, string> = {
  а: "a",
  б: "b",
  в: "v",
  г: "g",
  д: "d",
  е: "e",
  ж: "zh",
  з: "z",
  и: "i",
  к: "k",
  л: "l",
  м: "m",
  н: "n",
  о: "o",
  п: "p",
  р: "r",
  с: "s",
  т: "t",
  у: "u",
  ф: "f",
  х: "kh",
  ц: "ts",
  ч: "ch",
  ш: "sh",
  щ: "shch",
  ъ: "",
  ы: "y",
  ь: "",
  э: "e",
  ю: "yu",
  я: "ya",
  є: "ie",
  і: "i",
  ґ: "g",
  ђ: "dj",
  ј: "j",
  љ: "lj",
  њ: "nj",
  ћ: "c",
  џ: "dz",
  ѕ: "dz",
};
const GREEK: Record<string, string> = {
  α: "a",
  β: "v",
  γ: "g",
  δ: "d",
  ε: "e",
  ζ: "z",
  η: "i",
  θ: "th",
  ι: "i",
  κ: "k",
  λ: "l",
  μ: "m",
  ν: "n",
  ξ: "x",
  ο: "o",
  π: "p",
  ρ: "r",
  σ: "s",
  ς: "s",
  τ: "t",
  υ: "y",
  φ: "f",
  χ: "ch",
  ψ: "ps",
  ω: "o",
};
const LETTERS: Record<string, string> = { ...CYRILLIC, ...GREEK };

/**
 * Writes folded text in ASCII letters and digits alone, letter by letter of its script: Latin is there already, Cyrillic and
 * Greek are written in Latin letters, digits of any script become ours, and every other sign is spelt by its code point,
 * so that the outcome is never empty or equal by accident.
 */
export function toAscii(folded: string): string {
  return [...folded]
    .map((sign) => {
      if (/[a-z0-9 ]/.test(sign)) return sign;
      const letter = LETTERS[sign];
      if (letter !== undefined) return letter;
      const code = sign.codePointAt(0) ?? 0;
      return /\p{Nd}/u.test(sign) ? String(digitOf(code)) : code.toString(36);
    })
    .join("");
}

/** Decimal digits of every script stand in runs of ten, zero first: Unicode, section 4.6. */
function digitOf(code: number): number {
  let zero = code;
  while (code - zero < 9 && /\p{Nd}/u.test(String.fromCodePoint(zero - 1))) zero--;
  return (code - zero) % 10;
}

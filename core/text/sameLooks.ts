import { fold } from "./fold";

/** Small letters of other scripts that look like Latin ones: what somebody uses who wants to be taken for another. */
const LOOKS_LIKE: Record<string, string> = {
  ...{ а: "a", в: "b", с: "c", ԁ: "d", е: "e", ѕ: "s", һ: "h", і: "i", ј: "j", к: "k", ӏ: "l" },
  ...{ м: "m", н: "h", о: "o", р: "p", ԛ: "q", г: "r", т: "t", υ: "u", ѵ: "v", ԝ: "w", х: "x" },
  ...{ у: "y", α: "a", β: "b", ε: "e", η: "n", ι: "i", κ: "k", μ: "u", ν: "v", ο: "o", ρ: "p" },
  ...{ τ: "t", χ: "x", γ: "y", ω: "w", ʟ: "l", ɑ: "a", ı: "i" },
};

const DIGITS: Record<string, string> = { "0": "o", "1": "l", "3": "e", "5": "s" };

/**
 * Returns the words of a name as they look to a reader: folded, letters of other scripts and digits that look like Latin
 * letters taken for those, `i` for `l`, signs without width gone.
 */
export function wordsAsTheyLook(name: string): string[] {
  const seen = name.replace(/[\p{Cf}\p{Cc}]/gu, "").toLowerCase();
  return fold([...seen].map((letter) => LOOKS_LIKE[letter] ?? letter).join(""))
    .replace(/[0135]/g, (digit) => DIGITS[digit] ?? digit)
    .replace(/[il]/g, "l")
    .split(" ")
    .filter((word) => word !== "");
}

/**
 * Returns whether a name reads like another: it holds all words of the other, in any order, whatever stands beside them.
 * A name of one word is met by the same word alone.
 */
export function readsLike(name: string, other: string): boolean {
  const wanted = wordsAsTheyLook(other);
  const words = wordsAsTheyLook(name);
  return (
    wanted.length > 0 &&
    (words.join("") === wanted.join("") ||
      (wanted.length > 1 && wanted.every((word) => words.includes(word))))
  );
}

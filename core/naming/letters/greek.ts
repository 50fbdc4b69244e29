import { table } from "./table";

const LETTERS = table(
  "α a β v γ g δ d ε e ζ z η i θ th ι i κ k λ l μ m ν n ξ x ο o π p ρ r σ s ς s τ t υ y φ f χ ch ψ ps ω o",
);

/** Sounds before which αυ, ευ and ηυ end in f, as they do at the end of a word. */
const VOICELESS = "θκξπσςτφχψ";

/** Stands between two letters that are no diphthong. */
const APART = "\u200b";

/** Returns a text in small letters with its Greek ones written in Latin ones, as ISO 843 transcribes them. */
export function withoutGreek(text: string): string {
  return (
    text
      .normalize("NFD")
      // An accent on the first of two vowels says that they are two sounds: άυ, but αύ is one.
      .replace(/([αεηο])\u0301(?=[ιυ])/g, `$1${APART}`)
      .replace(/(?<=[\u0370-\u03ff])\u0301/g, "")
      .replace(/ου(?!\u0308)/g, "ou")
      .replace(/([αεη])υ(?!\u0308)(?=(.?))/gu, (_, vowel: string, next: string) => {
        const isVoiced = /[\u0370-\u03ff]/.test(next) && !VOICELESS.includes(next);
        return `${vowel}${isVoiced ? "v" : "f"}`;
      })
      .replace(/γ(?=[γξχ])/g, "n")
      .replace(/(?<![\p{L}\p{M}])μπ/gu, "b")
      .replace(/[\u0370-\u03ff]/g, (letter) => LETTERS.get(letter) ?? letter)
      .replaceAll(APART, "")
      .normalize("NFC")
  );
}

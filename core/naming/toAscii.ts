import { fold } from "../text/fold";
import { lettersOf } from "./letters/lettersOf";

/**
 * Writes a text in small ASCII letters, digits and single spaces, as it is usually written in Latin letters: Cyrillic by its
 * language, as far as the letters tell it, Greek by ISO 843, Arabic and Persian letter by letter. Accents go, digits of any
 * script become ours, and every other sign is spelt by its code point, so that the outcome is never empty or equal by accident.
 */
export function toAscii(text: string): string {
  return [...fold(lettersOf(text))]
    .map((sign) => {
      if (/[a-z0-9 ]/.test(sign)) return sign;
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

import { withoutArabic } from "./arabic";
import { withoutCyrillic } from "./cyrillic";
import { withoutGreek } from "./greek";

/** Returns a text in small letters, its Cyrillic, Greek and Arabic ones written in Latin ones. */
export function lettersOf(text: string): string {
  const small = text.normalize("NFC").toLowerCase();
  return /[\u0370-\u06ff\ufb50-\ufefc]/.test(small)
    ? withoutGreek(withoutCyrillic(withoutArabic(small)))
    : small;
}

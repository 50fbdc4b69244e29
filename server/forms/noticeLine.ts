import { familyLanguage } from "@amigo/language/families";
import { inLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";

/** Returns what a notice says beside its code in a language of a form; in English where Amigo has no words in that. */
export function noticeLine(language: string): string {
  return inLanguage(familyLanguage(language) ?? "en", () => t("forms.noticeLine"));
}

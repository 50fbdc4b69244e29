import { useEffect, useState } from "react";
import { familyLanguage, isRightToLeft, type FamilyLanguage } from "@amigo/language/families";
import { speakAs } from "@amigo/language/texts";
import { fetchTexts } from "../texts/families";
import { writeDatesAs } from "../ui/time";

/** The first language of the browser that families can read here. */
function browserLanguage(): FamilyLanguage {
  for (const tag of navigator.languages) {
    const found = familyLanguage(tag);
    if (found !== undefined) return found;
  }
  return "en";
}

/**
 * Speaks to a family in its language: the one that the server tells, and until it does the browser's.
 *
 * @returns the language that is spoken; undefined while its texts are fetched
 */
export function useFamilyLanguage(
  told: { language: FamilyLanguage; locale: string } | undefined,
): FamilyLanguage | undefined {
  const language = told?.language ?? browserLanguage();
  const locale = told?.locale ?? navigator.language;
  const [spoken, setSpoken] = useState<string>();
  useEffect(() => {
    let isWanted = true;
    const speak = (): void => {
      if (!isWanted) return;
      speakAs({ language, locale });
      writeDatesAs(locale);
      document.documentElement.lang = language;
      document.documentElement.dir = isRightToLeft(language) ? "rtl" : "ltr";
      setSpoken(`${language} ${locale}`);
    };
    // Without its texts it is said in English.
    fetchTexts(language).then(speak, speak);
    return () => {
      isWanted = false;
    };
  }, [language, locale]);
  return spoken === `${language} ${locale}` ? language : undefined;
}

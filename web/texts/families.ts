import { addLanguage } from "@amigo/language/texts";
import type { FamilyLanguage } from "@amigo/language/families";

/** The texts of each further language, fetched when a family reads it. */
const TEXTS: Record<Exclude<FamilyLanguage, "en">, () => Promise<void>> = {
  de: async () =>
    addLanguage("de", {
      web: (await import("@amigo/language/de/web.json")).default,
      core: (await import("@amigo/language/de/core.json")).default,
    }),
};

/** Fetches the texts of a language. */
export async function fetchTexts(language: FamilyLanguage): Promise<void> {
  if (language !== "en") await TEXTS[language]();
}

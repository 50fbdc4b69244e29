import { addLanguage } from "@amigo/language/texts";
import type { FamilyLanguage } from "@amigo/language/families";

/** The texts of each further language, fetched when a family reads it. */
const TEXTS: Record<Exclude<FamilyLanguage, "en">, () => Promise<void>> = {
  es: async () =>
    addLanguage("es", {
      web: (await import("@amigo/language/es/web.json")).default,
      core: (await import("@amigo/language/es/core.json")).default,
    }),
  fr: async () =>
    addLanguage("fr", {
      web: (await import("@amigo/language/fr/web.json")).default,
      core: (await import("@amigo/language/fr/core.json")).default,
    }),
  de: async () =>
    addLanguage("de", {
      web: (await import("@amigo/language/de/web.json")).default,
      core: (await import("@amigo/language/de/core.json")).default,
    }),
  pl: async () =>
    addLanguage("pl", {
      web: (await import("@amigo/language/pl/web.json")).default,
      core: (await import("@amigo/language/pl/core.json")).default,
    }),
  tr: async () =>
    addLanguage("tr", {
      web: (await import("@amigo/language/tr/web.json")).default,
      core: (await import("@amigo/language/tr/core.json")).default,
    }),
  ar: async () =>
    addLanguage("ar", {
      web: (await import("@amigo/language/ar/web.json")).default,
      core: (await import("@amigo/language/ar/core.json")).default,
    }),
  uk: async () =>
    addLanguage("uk", {
      web: (await import("@amigo/language/uk/web.json")).default,
      core: (await import("@amigo/language/uk/core.json")).default,
    }),
};

/** Fetches the texts of a language. */
export async function fetchTexts(language: FamilyLanguage): Promise<void> {
  if (language !== "en") await TEXTS[language]();
}

import { STAFF_LANGUAGES, staffLanguage, type StaffLanguage } from "@amigo/language/staff";
import { addLanguage, speakAs } from "@amigo/language/texts";

/** Where a browser keeps in which language it showed the interface last. */
const KEPT = "amigo.language";

/** The texts of each further language of the interface, fetched when it is read. */
const TEXTS: Record<Exclude<StaffLanguage, "en">, () => Promise<void>> = {
  de: async () => {
    const [families, core, web] = await Promise.all([
      Promise.all([import("@amigo/language/de/core.json"), import("@amigo/language/de/web.json")]),
      import("@amigo/language/de/staff/core.json"),
      import("@amigo/language/de/staff/web.json"),
    ]);
    addLanguage("de", { core: families[0].default, web: families[1].default });
    addLanguage("de", { core: core.default, web: web.default });
  },
  es: async () => {
    const [families, core, web] = await Promise.all([
      Promise.all([import("@amigo/language/es/core.json"), import("@amigo/language/es/web.json")]),
      import("@amigo/language/es/staff/core.json"),
      import("@amigo/language/es/staff/web.json"),
    ]);
    addLanguage("es", { core: families[0].default, web: families[1].default });
    addLanguage("es", { core: core.default, web: web.default });
  },
};

/** Returns the language in which the interface is shown before it is known who signs in: as it was last here, else the browser's. */
export function languageHere(): StaffLanguage {
  const kept = staffLanguage(window.localStorage.getItem(KEPT) ?? "");
  return (
    kept ??
    navigator.languages.map(staffLanguage).find((language) => language !== undefined) ??
    "en"
  );
}

/**
 * Shows the interface in a language. Called before the pages are fetched: some of their texts are said as soon as they are there.
 */
export async function beginIn(language: StaffLanguage): Promise<void> {
  if (language !== "en") await TEXTS[language]();
  document.documentElement.lang = language;
  const speech = { language, locale: language === "en" ? "en-GB" : language };
  if (import.meta.env.DEV && isStretched())
    speakAs({ ...speech, spell: (await import("@amigo/language/stretched")).stretched });
  else speakAs(speech);
}

/** Where a browser keeps that words are shown stretched, for developers. */
const STRETCHED = "amigo.stretched";

/** Whether words are shown stretched, so that what is in no catalogue, or has too little room, stands out. */
export function isStretched(): boolean {
  return window.localStorage.getItem(STRETCHED) !== null;
}

/** Shows words stretched from now on, or as they are. */
export function stretchWords(wanted: boolean): void {
  if (wanted) window.localStorage.setItem(STRETCHED, "yes");
  else window.localStorage.removeItem(STRETCHED);
  window.location.reload();
}

/** Whether the interface is shown in a language; else it is begun anew in that. */
export function isShownIn(language: StaffLanguage): boolean {
  if (document.documentElement.lang === language) {
    window.localStorage.setItem(KEPT, language);
    return true;
  }
  window.localStorage.setItem(KEPT, language);
  // Once: where the browser keeps nothing, the page would begin again and again.
  if (window.localStorage.getItem(KEPT) !== language) return true;
  window.location.reload();
  return false;
}

/** The languages of the interface as choices, each named in itself. */
export const LANGUAGE_CHOICES = STAFF_LANGUAGES.map((language) => ({
  value: language,
  name: new Intl.DisplayNames([language], { type: "language" }).of(language) ?? language,
}));

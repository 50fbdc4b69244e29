import { AsyncLocalStorage } from "node:async_hooks";
import { localeOf } from "@amigo/core/text/place";
import { addLanguages } from "@amigo/language/translations";
import { speakBy, type Speech } from "@amigo/language/texts";

/** What is spoken in a piece of work; undefined for the language of the staff. */
const spoken = new AsyncLocalStorage<{ speech: Speech | undefined }>();

let country = "";

addLanguages();
speakBy(() => spoken.getStore()?.speech);

/** Writes numbers and days to families as they are written in a country. */
export function writeAsIn(wanted: string): void {
  country = wanted;
}

/** Does a piece of work whose texts are said in a language. */
export function inLanguage<Result>(language: string, work: () => Result): Result {
  return spoken.run({ speech: speechOf(language) }, work);
}

/**
 * Does a piece of work whose texts are for the staff, also within one that speaks to a family: a note to a lead, the journal.
 *
 * @param language the language of the one who reads it; empty for the house's own
 */
export function inStaffLanguage<Result>(work: () => Result, language = ""): Result {
  return spoken.run({ speech: language === "" ? undefined : speechOf(language) }, work);
}

/** Returns the language that this piece of work speaks; empty where that is the house's own. */
export function languageNow(): string {
  return spoken.getStore()?.speech?.language ?? "";
}

/** Goes on in another language, within a piece of work that has one. */
export function goOnIn(language: string): void {
  const store = spoken.getStore();
  if (store !== undefined) store.speech = speechOf(language);
}

/** Goes on in a language of the interface, within a piece of work that has one; empty for the house's own. */
export function goOnInStaffLanguage(language: string): void {
  const store = spoken.getStore();
  if (store !== undefined) store.speech = language === "" ? undefined : speechOf(language);
}

/** Returns the locale by which numbers and days are written in a language here. */
export function localeFor(language: string): string {
  return localeOf({ language, country });
}

function speechOf(language: string): Speech {
  return { language, locale: localeFor(language) };
}

import { acceptedTags } from "./families";

/** The languages in which staff can read the interface, by BCP 47: English first, which has every text. */
export const STAFF_LANGUAGES = ["en", "de", "es"] as const;

export type StaffLanguage = (typeof STAFF_LANGUAGES)[number];

/** Returns the language of the interface for a tag such as `de-AT`; undefined where it isn't one. */
export function staffLanguage(tag: string): StaffLanguage | undefined {
  const base = tag.toLowerCase().split("-")[0];
  return STAFF_LANGUAGES.find((language) => language === base);
}

/** Returns the first language of the interface that a browser asks for; undefined where there is none. */
export function acceptedStaffLanguage(accept: string): StaffLanguage | undefined {
  return acceptedTags(accept)
    .map(staffLanguage)
    .find((language) => language !== undefined);
}

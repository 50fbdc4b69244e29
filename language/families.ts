/** The languages in which families can read what Amigo itself says, by BCP 47: English first, which has every text. */
export const FAMILY_LANGUAGES = ["en", "es", "fr", "de", "pl", "tr", "ar", "uk"] as const;

export type FamilyLanguage = (typeof FAMILY_LANGUAGES)[number];

/** Returns the language of families for a tag such as `pt-BR`; undefined where it isn't one. */
export function familyLanguage(tag: string): FamilyLanguage | undefined {
  const base = tag.toLowerCase().split("-")[0];
  return FAMILY_LANGUAGES.find((language) => language === base);
}

/** The most of an Accept-Language field that is looked at, in characters: browsers send less than a hundred. */
const MOST = 1000;

/** Returns the languages that a browser asks for, the one that it likes best first (RFC 9110, section 12.5.4). */
export function acceptedTags(accept: string): string[] {
  return accept
    .slice(0, MOST)
    .split(",")
    .map((part) => {
      const [tag = "", quality = ""] = part.trim().split(";q=");
      return { tag: tag.trim(), weight: quality === "" ? 1 : Number(quality) || 0 };
    })
    .filter(({ tag, weight }) => tag !== "" && weight > 0)
    .sort((one, other) => other.weight - one.weight)
    .map(({ tag }) => tag);
}

/** Returns the first language of families that a browser asks for; undefined where there is none. */
export function acceptedLanguage(accept: string): FamilyLanguage | undefined {
  return acceptedTags(accept)
    .map(familyLanguage)
    .find((language) => language !== undefined);
}

/** Whether a language is written from right to left. */
export function isRightToLeft(language: string): boolean {
  return ["ar", "he", "fa", "ur"].includes(language.split("-")[0] ?? "");
}

import { fold } from "../../text/fold";

/** The most letters of a title that are looked at; what is longer is a text, not a title. */
const LONGEST = 200;

/**
 * Takes a title apart into its words, folded: at blanks and signs, where small letters meet capitals (`parentEmail`), where
 * letters meet digits (`email2`), and behind an article (`l'élève`, `child's`).
 */
export function splitTitle(title: string): string[] {
  return fold(
    title
      .slice(0, LONGEST)
      .normalize("NFC")
      .replace(/\b([a-zA-Z]{1,5})['’](?=\p{L}{2})/gu, "$1 ")
      .replace(/['’]s\b/g, " ")
      .replace(/n°/gi, "no ")
      .replace(/[°º]/g, " ")
      .replace(/#(?=\s*\d)/g, " ")
      .replace(/#/g, " number ")
      .replace(/(\p{Ll})(\p{Lu})/gu, "$1 $2")
      .replace(/(\p{Lu})(\p{Lu}\p{Ll})/gu, "$1 $2")
      .replace(/(\p{L})(\d)/gu, "$1 $2")
      .replace(/(\d)(?!(?:st|nd|rd|th|er|e|eme|º|°|ª)\b)(\p{L})/gu, "$1 $2"),
  )
    .split(" ")
    .filter((word) => word !== "");
}

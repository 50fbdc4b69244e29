import type { DraftContent } from "@amigo/contract/drafts";
import type { FamilyLanguage } from "@amigo/language/families";
import { oneHeaderLine } from "@amigo/core/mail/headerText";
import type { Version } from "@amigo/core/mail/versions";
import { cleanHtml, textOf } from "./draftHtml";

/**
 * Returns what a draft says in each of its languages, its own text first; a version without a subject has that of the text.
 *
 * @param usual the language of a text for which none is chosen
 */
export function versionsOf(
  { subject, html, language, versions }: DraftContent,
  usual: FamilyLanguage,
): Version[] {
  const own = languageOfText({ language }, usual);
  return [
    versionOf({ language: own, subject, html }),
    // Drafts from before there were languages don't have any.
    ...(versions ?? [])
      .filter((version) => version.language !== own)
      .map((version) => versionOf({ ...version, subject: version.subject.trim() || subject })),
  ];
}

/** Returns the language of a draft's own text. */
export function languageOfText(
  { language }: Partial<Pick<DraftContent, "language">>,
  usual: FamilyLanguage,
): FamilyLanguage {
  return language === undefined || language === "" ? usual : language;
}

function versionOf({ language, subject, html }: Omit<Version, "text">): Version {
  const clean = cleanHtml(html);
  return { language, subject: oneHeaderLine(subject), html: clean, text: textOf(clean) };
}

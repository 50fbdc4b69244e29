import { isRightToLeft } from "@amigo/language/families";
import { languageName } from "../text/languageName";
import { escapeHtml } from "../text/escapeHtml";

/** What a mail says in one language. */
export interface Version {
  /** By BCP 47. */
  language: string;
  subject: string;
  text: string;
  /** Empty for a mail of plain text. */
  html: string;
}

/** Returns the versions of a mail with a reader's own first, the others as their writer has them; without one of theirs, all so. */
export function inTurnFor(versions: readonly Version[], language: string): Version[] {
  const first = versions.filter((version) => version.language === language);
  return [...first, ...versions.filter((version) => !first.includes(version))];
}

/**
 * Returns versions of a mail as one that can be read: the first, and below it the others under the names of their languages. A
 * line on top says which follow. The subject is the first one's.
 */
export function joinVersions(versions: readonly Version[]): Omit<Version, "language"> {
  const [first, ...others] = versions;
  if (first === undefined) return { subject: "", text: "", html: "" };
  if (others.length === 0) return first;
  const following = `\u2193 ${others.map(({ language }) => languageName(language)).join(" \u00b7 ")}`;
  return {
    subject: first.subject,
    text: [
      `${following}\n\n${first.text}`,
      ...others.map((other) => `${ruled(headingOf(other, first))}\n\n${other.text}`),
    ]
      .map((part) => part.trimEnd())
      .join("\n\n\n"),
    html: versions.every(({ html }) => html === "")
      ? ""
      : [
          `<p><small>${escapeHtml(following)}</small></p>\n${blockOf(first)}`,
          ...others.map(
            (other) =>
              `<hr>\n${blockOf(other, `<h2>${escapeHtml(headingOf(other, first))}</h2>\n`)}`,
          ),
        ].join("\n"),
  };
}

/** What stands above a version: its language, and its subject where that isn't the mail's. */
function headingOf({ language, subject }: Version, first: Version): string {
  return subject === "" || subject === first.subject
    ? languageName(language)
    : `${languageName(language)}: ${subject}`;
}

function ruled(heading: string): string {
  return `${"\u2500".repeat(8)} ${heading} ${"\u2500".repeat(8)}`;
}

function blockOf({ language, html, text }: Version, heading = ""): string {
  const direction = isRightToLeft(language) ? "rtl" : "ltr";
  const body = html === "" ? `<pre>${escapeHtml(text)}</pre>` : html;
  return `<div lang="${escapeHtml(language)}" dir="${direction}">\n${heading}${body}\n</div>`;
}

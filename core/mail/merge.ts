import { escapeHtml } from "../text/escapeHtml";
import type { Version } from "./versions";

/** What can be filled in for each recipient of a mail. */
export const MERGE_FIELDS = ["first name", "name", "children", "class", "house"] as const;

export type MergeField = (typeof MERGE_FIELDS)[number];

export type MergeValues = Readonly<Record<MergeField, string>>;

const FIELD = /\{([a-z ]{2,20})(?:\|([^{}|]{0,80}))?\}/g;

/** The fields that stand in a text, known or not: `{first name}`, or `{first name|friends}` with what stands there where it is empty. */
export function mergeFieldsIn(text: string): { field: string; known: boolean }[] {
  return [...text.matchAll(FIELD)].map(([, field = ""]) => ({
    field,
    known: MERGE_FIELDS.some((name) => name === field),
  }));
}

/** A text with its fields filled in; what is no field stays as it is. `into` says whether signs of HTML have to be written otherwise. */
export function fillMerge(
  text: string,
  values: Partial<MergeValues>,
  into: "text" | "html",
): string {
  return text.replace(FIELD, (whole, field: string, instead: string | undefined) => {
    const known = MERGE_FIELDS.find((name) => name === field);
    if (known === undefined) return whole;
    const value = values[known] ?? "";
    return into === "text" || value === "" ? value || (instead ?? "") : escapeHtml(value);
  });
}

/** Returns the versions of a mail with their fields filled in. */
export function filledVersions(
  versions: readonly Version[],
  values: Partial<MergeValues>,
): Version[] {
  return versions.map(({ language, subject, text, html }) => ({
    language,
    subject: fillMerge(subject, values, "text"),
    text: fillMerge(text, values, "text"),
    html: fillMerge(html, values, "html"),
  }));
}

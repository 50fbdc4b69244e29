import type { FormContent } from "@amigo/core/forms/form";
import type { ConsentVersion } from "../db/schema/forms";

/** The consent's versions, with a new one where its words have changed. */
export function nextConsents(
  before: readonly ConsentVersion[],
  { words, parts }: FormContent,
): ConsentVersion[] {
  const texts = Object.fromEntries(
    words.map(({ language, consent }) => [language, consent.trim()]),
  );
  const last = before.at(-1);
  if (!parts.includes("consent") || JSON.stringify(last?.texts) === JSON.stringify(texts))
    return [...before];
  return [...before, { version: (last?.version ?? 0) + 1, since: new Date().toISOString(), texts }];
}

import type { Audience } from "./audience";

/** The text of an audience, as `parseAudience` reads it. */
export function formatAudience({ who, kind, cohort }: Audience): string {
  const place = cohort === undefined ? `this ${kind}` : `${kind === "class" ? "" : `${kind} `}"${cohort}"`;
  return `${who === "guardians" ? "guardians of students" : "students"} in ${place}`;
}

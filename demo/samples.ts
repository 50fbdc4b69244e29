import { fileURLToPath } from "node:url";

/** The sample sheets that the demo house offers to read. */
export const SAMPLE_SHEETS: readonly { name: string; what: string }[] = [
  { name: "autumn-roster.xlsx", what: "The office's roster: 220 students with their guardians" },
  { name: "autumn-roster-week-2.xlsx", what: "The same roster a week on: 14 things have changed" },
];

/** Where the samples lie. */
export const SAMPLES_FOLDER = fileURLToPath(new URL("samples/", import.meta.url));

/** What was dropped or pasted and is not read yet. `key` makes every drop a new draft. */
export interface Dropped {
  key: number;
  file: File;
  /** Where it comes from, when it will be fetched from there again. */
  kind?: "pasted" | "watched" | "web" | "posted";
  location?: string;
  /** When it was last written, where the file itself does not say. */
  writtenAt?: string;
}

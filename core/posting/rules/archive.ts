import type { Rule } from "./rule";

/** Who may read what was written to the list before. */
export const archive: Rule = {
  id: "archive",
  words: "who may read the archive",
  form: "choice",
  usual: "members",
  values: [
    { value: "none", words: "nobody; none is kept" },
    { value: "leads", words: "its leads" },
    { value: "members", words: "its members" },
    { value: "inside", words: "anyone inside" },
  ],
};

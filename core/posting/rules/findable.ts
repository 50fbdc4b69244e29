import type { Rule } from "./rule";

/** Who finds the list by typing the start of its name. A list that somebody does not find never completes in their To field. */
export const findable: Rule = {
  id: "findable",
  words: "findable by",
  form: "choice",
  usual: "leads",
  values: [
    { value: "leads", words: "its leads" },
    { value: "staff", words: "the staff" },
    { value: "members", words: "the staff and its members" },
    { value: "inside", words: "anyone inside" },
  ],
};

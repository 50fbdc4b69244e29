import type { Rule } from "./rule";

/** Who may look up who is on the list. */
export const roster: Rule = {
  id: "roster",
  words: "who may see the members",
  form: "choice",
  usual: "leads",
  values: [
    { value: "leads", words: "its leads" },
    { value: "staff", words: "the staff" },
    { value: "members", words: "the staff and its members" },
  ],
};

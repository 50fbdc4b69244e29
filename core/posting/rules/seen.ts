import type { Rule } from "./rule";

/** Whether members see each other's addresses. */
export const seen: Rule = {
  id: "seen",
  words: "whether members see each other",
  form: "choice",
  usual: "no",
  values: [
    { value: "no", words: "do not see" },
    { value: "yes", words: "see" },
  ],
};

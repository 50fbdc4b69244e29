import type { Rule } from "./rule";

/** Which addresses outside the house may be on the list. */
export const outside: Rule = {
  id: "outside",
  words: "outside addresses",
  form: "choice",
  usual: "none",
  values: [
    { value: "none", words: "none" },
    { value: "guardians", words: "guardians only" },
    { value: "any", words: "any" },
  ],
};

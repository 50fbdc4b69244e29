import type { Rule } from "./rule";

/** How somebody comes off the list. */
export const leaving: Rule = {
  id: "leaving",
  words: "leaving",
  form: "choice",
  usual: "by oneself",
  values: [
    { value: "through a lead", words: "leave through a lead" },
    { value: "by oneself", words: "may leave by themselves" },
  ],
};

import type { Rule } from "./rule";

/** How often a member gets mail who has chosen nothing. */
export const howOften: Rule = {
  id: "howOften",
  words: "how often, by default",
  form: "choice",
  usual: "every message",
  values: [
    { value: "nothing", words: "nothing by mail" },
    { value: "weekly", words: "a weekly digest" },
    { value: "daily", words: "a daily digest" },
    { value: "every message", words: "every message" },
  ],
};

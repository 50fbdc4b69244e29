import type { Rule } from "./rule";

/** A few lines at the end of every post. */
export const footer: Rule = {
  id: "footer",
  words: "footer text",
  form: "text",
  usual: "",
  values: [],
  most: 1000,
};

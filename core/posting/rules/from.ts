import type { Rule } from "./rule";

/** By whose name a post comes. */
export const from: Rule = {
  id: "from",
  words: "sender of posts",
  form: "choice",
  usual: "writer",
  values: [
    { value: "list", words: "from the list itself" },
    { value: "writer", words: "from the writer by way of the list" },
  ],
};

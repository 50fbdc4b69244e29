import type { Rule } from "./rule";

/** Where an answer to a post goes. Where it goes to nobody, whoever answers is told that the list is one-way. */
export const replies: Rule = {
  id: "replies",
  words: "where replies go",
  form: "choice",
  usual: "writer",
  values: [
    { value: "nobody", words: "nobody" },
    { value: "leads", words: "the leads" },
    { value: "writer", words: "the writer" },
    { value: "list", words: "the list" },
  ],
};

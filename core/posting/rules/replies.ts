import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** Where an answer to a post goes. Where it goes to nobody, whoever answers is told that the list is one-way. */
export const replies: Rule = {
  id: "replies",
  words: message("posting.whereRepliesGo"),
  form: "choice",
  usual: "writer",
  values: [
    { value: "nobody", words: message("posting.nobody") },
    { value: "leads", words: message("posting.theLeads") },
    { value: "writer", words: message("posting.theWriter") },
    { value: "list", words: message("posting.theList") },
  ],
};

import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** By whose name a post comes. */
export const from: Rule = {
  id: "from",
  words: message("posting.senderOfPosts"),
  form: "choice",
  usual: "writer",
  values: [
    { value: "list", words: message("posting.fromTheListItself") },
    { value: "writer", words: message("posting.fromTheWriterByWay") },
  ],
};

import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** A few lines at the end of every post. */
export const footer: Rule = {
  id: "footer",
  words: message("posting.footerText"),
  form: "text",
  usual: "",
  values: [],
  most: 1000,
};

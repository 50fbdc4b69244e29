import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** Which addresses outside the house may be on the list. */
export const outside: Rule = {
  id: "outside",
  words: message("posting.outsideAddresses"),
  form: "choice",
  usual: "none",
  values: [
    { value: "none", words: message("posting.none") },
    { value: "guardians", words: message("posting.guardiansOnly") },
    { value: "any", words: message("posting.any") },
  ],
};

import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** Whether an outside address that somebody adds by hand waits for a lead's word. */
export const outsideWait: Rule = {
  id: "outsideWait",
  words: message("posting.outsideAddressesWait"),
  form: "choice",
  usual: "at once",
  values: [
    { value: "lead", words: message("posting.waitUntilALeadAgrees") },
    { value: "at once", words: message("posting.areAddedAtOnce") },
  ],
};

import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** How somebody comes off the list. */
export const leaving: Rule = {
  id: "leaving",
  words: message("posting.leaving"),
  form: "choice",
  usual: "by oneself",
  values: [
    { value: "through a lead", words: message("posting.leaveThroughALead") },
    { value: "by oneself", words: message("posting.mayLeaveByThemselves") },
  ],
};

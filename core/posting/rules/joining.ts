import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** How somebody comes onto the list beside what its audience says. */
export const joining: Rule = {
  id: "joining",
  words: message("posting.joining"),
  form: "choice",
  usual: "lead",
  values: [
    { value: "roster", words: message("posting.byTheRosterOnly") },
    { value: "lead", words: message("posting.byTheRosterOrA") },
    { value: "request", words: message("posting.byTheRosterALead") },
    { value: "inside", words: message("posting.byThemselvesWhenTheyAre") },
  ],
};

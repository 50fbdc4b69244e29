import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** Who may look up who is on the list. */
export const roster: Rule = {
  id: "roster",
  words: message("posting.whoMaySeeTheMembers"),
  form: "choice",
  usual: "leads",
  values: [
    { value: "leads", words: message("posting.itsLeads") },
    { value: "staff", words: message("posting.theStaff") },
    { value: "members", words: message("posting.theStaffAndItsMembers") },
  ],
};

import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** Who finds the list by typing the start of its name. A list that somebody does not find never completes in their To field. */
export const findable: Rule = {
  id: "findable",
  words: message("posting.findableBy"),
  form: "choice",
  usual: "leads",
  values: [
    { value: "leads", words: message("posting.itsLeads") },
    { value: "staff", words: message("posting.theStaff") },
    { value: "members", words: message("posting.theStaffAndItsMembers") },
    { value: "inside", words: message("posting.anyoneInside") },
  ],
};

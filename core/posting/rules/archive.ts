import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** Who may read what was written to the list before. */
export const archive: Rule = {
  id: "archive",
  words: message("posting.whoMayReadTheArchive"),
  form: "choice",
  usual: "members",
  values: [
    { value: "none", words: message("posting.nobodyNoneIsKept") },
    { value: "leads", words: message("posting.itsLeads") },
    { value: "members", words: message("posting.itsMembers") },
    { value: "inside", words: message("posting.anyoneInside") },
  ],
};

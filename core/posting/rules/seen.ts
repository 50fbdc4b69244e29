import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** Whether members see each other's addresses. */
export const seen: Rule = {
  id: "seen",
  words: message("posting.whetherMembersSeeEachOther"),
  form: "choice",
  usual: "no",
  values: [
    { value: "no", words: message("posting.doNotSee") },
    { value: "yes", words: message("posting.see") },
  ],
};

import { message } from "@amigo/language/message";
import type { Judgement, Rule } from "./rule";
import { mayWrite } from "./writers";

const BECOMES: Record<string, Judgement> = {
  returned: { outcome: "returned", sentence: message("posting.otherMailIsReturnedWith") },
  held: { outcome: "held", sentence: message("posting.otherMailIsHeldUntil") },
  dropped: { outcome: "dropped", sentence: message("posting.otherMailIsDiscardedWithout") },
};

/** What happens to mail of those who may not write. */
export const other: Rule = {
  id: "other",
  words: message("posting.otherMail"),
  form: "choice",
  usual: "returned",
  values: [
    { value: "dropped", words: message("posting.discarded") },
    { value: "returned", words: message("posting.returnedWithAReason") },
    { value: "held", words: message("posting.heldForALead") },
  ],
  judge: (mail, rules) => {
    const becomes = mayWrite(mail, rules) ? undefined : BECOMES[rules.other];
    return becomes === undefined || rules.replies !== "nobody"
      ? becomes
      : {
          ...becomes,
          sentence: message("posting.thisListIsOneWay", { sentence: becomes.sentence }),
        };
  },
};

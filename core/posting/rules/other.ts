import type { Judgement, Rule } from "./rule";
import { mayWrite } from "./writers";

const BECOMES: Record<string, Judgement> = {
  returned: { outcome: "returned", sentence: "Other mail is returned with a reason." },
  held: { outcome: "held", sentence: "Other mail is held until a lead or helper decides." },
  dropped: { outcome: "dropped", sentence: "Other mail is discarded without a note." },
};

/** What happens to mail of those who may not write. */
export const other: Rule = {
  id: "other",
  words: "other mail",
  form: "choice",
  usual: "returned",
  values: [
    { value: "dropped", words: "discarded" },
    { value: "returned", words: "returned with a reason" },
    { value: "held", words: "held for a lead" },
  ],
  judge: (mail, rules) => {
    const becomes = mayWrite(mail, rules) ? undefined : BECOMES[rules.other];
    return becomes === undefined || rules.replies !== "nobody"
      ? becomes
      : {
          ...becomes,
          sentence: `This list is one-way: an answer to it reaches nobody. ${becomes.sentence}`,
        };
  },
};

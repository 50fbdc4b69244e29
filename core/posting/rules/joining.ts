import type { Rule } from "./rule";

/** How somebody comes onto the list beside what its audience says. */
export const joining: Rule = {
  id: "joining",
  words: "joining",
  form: "choice",
  usual: "lead",
  values: [
    { value: "roster", words: "by the roster only" },
    { value: "lead", words: "by the roster or a lead" },
    { value: "request", words: "by the roster, a lead, or asking" },
    { value: "inside", words: "by themselves when they are inside" },
  ],
};

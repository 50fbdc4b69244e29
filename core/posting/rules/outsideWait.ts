import type { Rule } from "./rule";

/** Whether an outside address that somebody adds by hand waits for a lead's word. */
export const outsideWait: Rule = {
  id: "outsideWait",
  words: "outside addresses wait",
  form: "choice",
  usual: "at once",
  values: [
    { value: "lead", words: "wait until a lead agrees" },
    { value: "at once", words: "are added at once" },
  ],
};

import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

const MB = 1024 * 1024;

/** How large a whole message may be, in MB. */
export const longest: Rule = {
  id: "longest",
  words: message("posting.longestMessage"),
  form: "number",
  usual: "20",
  most: 25,
  unit: message("posting.mb"),
  values: [],
  judge: ({ message: content }, rules) =>
    content.size > Number(rules.longest) * MB
      ? {
          outcome: "returned",
          sentence: message("posting.theMessageHasMbOn", {
            toFixed: (content.size / MB).toFixed(1),
            longest: rules.longest,
          }),
        }
      : undefined,
};

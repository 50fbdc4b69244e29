import type { Rule } from "./rule";

const MB = 1024 * 1024;

/** How large a whole message may be, in MB. */
export const longest: Rule = {
  id: "longest",
  words: "longest message",
  form: "number",
  usual: "20",
  most: 25,
  unit: "MB",
  values: [],
  judge: ({ message }, rules) =>
    message.size > Number(rules.longest) * MB
      ? {
          outcome: "returned",
          sentence: `The message has ${(message.size / MB).toFixed(1)} MB; on this list it may have up to ${rules.longest} MB.`,
        }
      : undefined,
};

import type { Rule } from "./rule";

const MB = 1024 * 1024;

/** How large one attachment may be, in MB. */
export const attachmentSize: Rule = {
  id: "attachmentSize",
  words: "largest attachment",
  form: "number",
  usual: "10",
  most: 25,
  unit: "MB",
  values: [],
  judge: ({ message }, rules) => {
    const large = message.attachments.find(({ size }) => size > Number(rules.attachmentSize) * MB);
    return large === undefined
      ? undefined
      : {
          outcome: "returned",
          sentence: `An attachment has ${(large.size / MB).toFixed(1)} MB; on this list each may have up to ${rules.attachmentSize} MB.`,
        };
  },
};

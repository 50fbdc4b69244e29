import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

const MB = 1024 * 1024;

/** How large one attachment may be, in MB. */
export const attachmentSize: Rule = {
  id: "attachmentSize",
  words: message("posting.largestAttachment"),
  form: "number",
  usual: "10",
  most: 25,
  unit: message("posting.mb"),
  values: [],
  judge: ({ message: content }, rules) => {
    const large = content.attachments.find(({ size }) => size > Number(rules.attachmentSize) * MB);
    return large === undefined
      ? undefined
      : {
          outcome: "returned",
          sentence: message("posting.anAttachmentHasMbOn", {
            toFixed: (large.size / MB).toFixed(1),
            attachmentSize: rules.attachmentSize,
          }),
        };
  },
};

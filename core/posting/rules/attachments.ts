import type { Rule } from "./rule";

const DOCUMENT =
  /^(image\/(?!svg)|text\/(plain|csv|calendar|vcard)|application\/(pdf|msword|rtf|vnd\.(openxmlformats|oasis|ms-excel|ms-powerpoint)))/;

/** What kinds of files a post may carry. */
export const attachments: Rule = {
  id: "attachments",
  words: "attachments",
  form: "choice",
  usual: "any",
  values: [
    { value: "none", words: "no attachments" },
    { value: "pictures and documents", words: "pictures and documents" },
    { value: "any", words: "any attachments" },
  ],
  judge: ({ message }, rules) => {
    if (rules.attachments === "none" && message.attachments.length > 0)
      return {
        outcome: "returned",
        sentence: "This list takes no attachments. Send it again without, or with a link.",
      };
    const strange =
      rules.attachments === "pictures and documents"
        ? message.attachments.find(({ type }) => !DOCUMENT.test(type))
        : undefined;
    return strange === undefined
      ? undefined
      : {
          outcome: "returned",
          sentence: `This list takes pictures and documents only, and something of the kind ${strange.type} is attached.`,
        };
  },
};

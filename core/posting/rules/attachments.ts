import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

const DOCUMENT =
  /^(image\/(?!svg)|text\/(plain|csv|calendar|vcard)|application\/(pdf|msword|rtf|vnd\.(openxmlformats|oasis|ms-excel|ms-powerpoint)))/;

/** What kinds of files a post may carry. */
export const attachments: Rule = {
  id: "attachments",
  words: message("posting.attachments"),
  form: "choice",
  usual: "any",
  values: [
    { value: "none", words: message("posting.noAttachments") },
    { value: "pictures and documents", words: message("posting.picturesAndDocuments") },
    { value: "any", words: message("posting.anyAttachments") },
  ],
  judge: ({ message: content }, rules) => {
    if (rules.attachments === "none" && content.attachments.length > 0)
      return {
        outcome: "returned",
        sentence: message("posting.thisListTakesNoAttachments"),
      };
    const strange =
      rules.attachments === "pictures and documents"
        ? content.attachments.find(({ type }) => !DOCUMENT.test(type))
        : undefined;
    return strange === undefined
      ? undefined
      : {
          outcome: "returned",
          sentence: message("posting.thisListTakesPicturesAnd", { type: strange.type }),
        };
  },
};

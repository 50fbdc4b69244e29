import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** What kinds of files the list's shelf takes. */
export const shelfKinds: Rule = {
  id: "shelfKinds",
  words: message("posting.filesOnTheShelf"),
  form: "choice",
  usual: "no programs",
  values: [
    { value: "pictures and documents", words: message("posting.onlyPicturesAndDocuments") },
    { value: "no programs", words: message("posting.anyFilesButPrograms") },
    { value: "any", words: message("posting.anyFiles") },
  ],
};

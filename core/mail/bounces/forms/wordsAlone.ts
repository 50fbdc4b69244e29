import type { BounceForm } from "../form";
import { humanLines, humanText, sortReason } from "../humanPart";
import { looksReturned } from "../looksReturned";

/** Words alone, in one of several languages. Without words that are known it counts as for now. */
export const wordsAlone: BounceForm = {
  id: "words alone",
  read: (mail) => {
    if (!looksReturned(mail)) return undefined;
    const read = sortReason(humanText(mail.text), mail.text);
    return { ...read, words: read.words || (humanLines(mail.text)[0] ?? mail.subject) };
  },
};

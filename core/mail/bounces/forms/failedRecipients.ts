import { fieldValue } from "../../splitMessage";
import type { BounceForm } from "../form";
import { refusalIn } from "../refusalIn";
import { sortOf } from "../sortOf";

/** A plain text with the failed addresses in a header field of their own, and the reason indented below each. */
export const failedRecipients: BounceForm = {
  id: "failed recipients field",
  read: ({ split, text }) => {
    if (fieldValue(split, "x-failed-recipients") === undefined) return undefined;
    const refused = refusalIn(text.split(/^-{3,}.*(copy of|original message)/im)[0] ?? text);
    return { sort: sortOf(refused), words: refused.words };
  },
};

import type { BounceForm } from "../form";
import { sortOf } from "../sortOf";
import { LOOKS_RETURNED } from "./serverSaid";

/** Words alone, in one of several languages, below a subject that says that a mail came back. Without words that are known it counts as for now. */
export const wordsAlone: BounceForm = {
  id: "words alone",
  read: ({ text, subject, returnPath }) => {
    if (!LOOKS_RETURNED.test(subject) && returnPath !== "") return undefined;
    if (!LOOKS_RETURNED.test(`${subject}\n${text.slice(0, 2000)}`)) return undefined;
    const told =
      text.split(/^(-{3,}|>|-+ ?original|received:|return-path:)/im)[0]?.slice(0, 3000) ?? "";
    const lines = told
      .split(/\r?\n/)
      .map((line) => line.trim())
      .filter((line) => line !== "");
    const says = lines.find((line) => sortOf({ words: line }) !== "temporary");
    return { sort: sortOf({ words: says ?? "" }), words: says ?? lines[0] ?? subject };
  },
};

import type { BounceForm } from "../form";
import { refusalIn } from "../refusalIn";
import { sortOf } from "../sortOf";

const BEGINS =
  /^\s*-{2,}\s*the following addresses had (permanent fatal errors|transient non-fatal errors|delivery (errors|problems))\s*-{2,}|^\s*-{2,}\s*transcript of session follows\s*-{2,}/im;

/** The old form of a transcript: the addresses, then what the two mail systems said to each other. */
export const transcript: BounceForm = {
  id: "transcript of the session",
  read: ({ text }) => {
    const begins = BEGINS.exec(text);
    if (begins === null) return undefined;
    const talk =
      /^\s*-{2,}\s*transcript of session follows\s*-{2,}([^]*?)(^\s*-{2,}|$(?![^]))/im.exec(
        text,
      )?.[1] ?? text.slice(begins.index);
    const refused = refusalIn(talk);
    return {
      sort:
        begins[1]?.toLowerCase().startsWith("transient") === true
          ? sortOf({ ...refused, code: 450 })
          : sortOf(refused),
      words: refused.words,
    };
  },
};

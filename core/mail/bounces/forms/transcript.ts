import type { BounceForm } from "../form";
import { sortReason } from "../humanPart";

const BEGINS =
  /^[ \t]*-{2,}[ \t]*the following addresses had (permanent fatal errors|transient non-fatal errors|delivery (errors|problems))[ \t]*-{2,}|^[ \t]*-{2,}[ \t]*transcript of session follows[ \t]*-{2,}/im;

/** The old form of a transcript: the addresses, then what the two mail systems said to each other. */
export const transcript: BounceForm = {
  id: "transcript of the session",
  read: ({ text }) => {
    const begins = BEGINS.exec(text);
    if (begins === null) return undefined;
    const talk =
      /^[ \t]*-{2,}[ \t]*transcript of session follows[ \t]*-{2,}([^]*?)(^[ \t]*-{2,}|$(?![^]))/im.exec(
        text,
      )?.[1] ?? text.slice(begins.index);
    const read = sortReason(talk, text);
    // A warning that mail is late: it may still arrive.
    const isLate = begins[1]?.toLowerCase().startsWith("transient") === true;
    return isLate ? { ...read, sort: "not a bounce" } : read;
  },
};

import type { BounceForm } from "../form";
import { sortReason } from "../humanPart";

/** An introduction in words, then each address in angle brackets with a colon, and the reason in the lines below it. */
export const addressThenReason: BounceForm = {
  id: "address, then reason",
  read: ({ text }) => {
    const found = /^<[^<>\s@]+@[^<>\s@]+>:[ \t]*\r?\n?((?:.*\S.*(?:\r?\n|$)){1,8})/m.exec(text);
    if (found?.[1] === undefined) return undefined;
    return sortReason(found[1], text);
  },
};

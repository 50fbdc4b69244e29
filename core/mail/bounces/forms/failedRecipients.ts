import { fieldValue } from "../../splitMessage";
import type { BounceForm } from "../form";
import { sortReason } from "../humanPart";

/** A plain text with the failed addresses in a header field of their own, and the reason indented below each. */
export const failedRecipients: BounceForm = {
  id: "failed recipients field",
  read: ({ split, text }) => {
    if (fieldValue(split, "x-failed-recipients") === undefined) return undefined;
    const lines = text.split(/\r?\n/);
    const copy = lines.findIndex(
      (line) => line.startsWith("---") && /copy of|original message/i.test(line),
    );
    return sortReason(lines.slice(0, copy < 0 ? undefined : copy).join("\n"), text);
  },
};

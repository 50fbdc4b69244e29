import { useState } from "react";
import type { DraftContent } from "@amigo/contract/drafts";
import { faultOf, targetsIn } from "./typedTargets";

/** Where recipients are typed. */
const FIELDS = ["to", "cc", "bcc"] as const;
type Field = (typeof FIELDS)[number];

/** What stands in the fields for recipients and is none yet, and what is wrong with it. */
export function useTypedRecipients(
  content: DraftContent,
  change: (part: Partial<DraftContent>) => void,
) {
  const [texts, setTexts] = useState({ to: "", cc: "", bcc: "" });
  const [unsettled, setUnsettled] = useState("");
  return {
    texts,
    unsettled,
    type: (field: Field, text: string): void => {
      setUnsettled("");
      setTexts((before) => ({ ...before, [field]: text }));
    },
    /** Makes recipients of what was typed. Tells whether nothing was made, and what couldn't be made into any. */
    settle: (): "nothing typed" | "made" | "wrong" => {
      const left = FIELDS.map((field) => [field, targetsIn(texts[field], content[field])] as const);
      const made = left.filter(([, { targets }]) => targets.length > 0);
      if (made.length > 0)
        change(
          Object.fromEntries(
            made.map(([field, { targets }]) => [field, [...content[field], ...targets]]),
          ),
        );
      setTexts({
        to: left[0]?.[1].rest ?? "",
        cc: left[1]?.[1].rest ?? "",
        bcc: left[2]?.[1].rest ?? "",
      });
      const wrong = left.find(([, { rest }]) => rest !== "");
      setUnsettled(wrong === undefined ? "" : faultOf(wrong[1].rest));
      if (wrong !== undefined) return "wrong";
      return made.length > 0 ? "made" : "nothing typed";
    },
  };
}

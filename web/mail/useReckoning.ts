import { useEffect, useState } from "react";
import type { DraftContent } from "@amigo/contract/drafts";
import { useReckonDraftQuery } from "../data/drafts";

/** How long the recipients must stay the same before they are counted, in milliseconds. */
const RESTS = 250;

/** How many a mail reaches, always as it is now, and what its writer is asked before it is sent. */
export function useReckoning(content: DraftContent, files: number) {
  const [wanted, isRested] = useRested(
    { content: { ...content, html: content.html.slice(0, 400_000) }, files },
    RESTS,
  );
  const isEmpty = content.to.length + content.cc.length + content.bcc.length === 0;
  // The count is asked for by whom it goes to alone, so that it is always the one of now; what is to be asked before, by the text, too.
  const { currentData: counts } = useReckonDraftQuery(
    {
      content: {
        ...content,
        ...{ subject: "", html: "", copyToMe: false },
        versions: content.versions.map((version) => ({ ...version, subject: "", html: "" })),
      },
      files: 0,
    },
    { skip: isEmpty },
  );
  const reckoning = useReckonDraftQuery(wanted, { skip: isEmpty });
  return {
    counts,
    isEmpty,
    asks: reckoning.currentData?.asks ?? [],
    /** Whether what is asked before sending is that of the text as it stands. */
    isCounted: isRested && !reckoning.isFetching,
    isReady:
      counts !== undefined &&
      (counts.addresses > 0 || counts.notes.length > 0) &&
      counts.refused.length === 0 &&
      content.subject.trim() !== "" &&
      (content.html !== "" || files > 0) &&
      content.versions.every(({ html }) => html !== ""),
  };
}

/** A value once it has not changed for a while, and whether it is the one of now. */
function useRested<Value>(value: Value, rests: number): [Value, boolean] {
  const text = JSON.stringify(value);
  const [rested, setRested] = useState({ value, text });
  useEffect(() => {
    const timer = setTimeout(() => setRested({ value: JSON.parse(text) as Value, text }), rests);
    return () => clearTimeout(timer);
  }, [text, rests]);
  return [rested.value, rested.text === text];
}

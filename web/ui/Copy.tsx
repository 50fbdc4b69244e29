import { useState } from "react";
import { Button } from "./Button";
import { Rich } from "../texts/ui";

/** Copies a text, and says for a moment that it has. */
export function Copy({ text }: { text: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <Button
      className="min-h-[26px]! px-2.5! text-[13px]"
      onClick={() =>
        void navigator.clipboard.writeText(text).then(() => {
          setCopied(true);
          setTimeout(() => setCopied(false), 2000);
        })
      }
    >
      <Rich
        id="ui.copiedTheAddress"
        copied={String(copied)}
        span={(chunks) => <span className="sr-only">{chunks}</span>}
      />
    </Button>
  );
}

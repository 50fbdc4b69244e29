import { useState } from "react";
import { Button } from "./Button";

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
      {copied ? "Copied" : "Copy"}
      <span className="sr-only"> the address</span>
    </Button>
  );
}

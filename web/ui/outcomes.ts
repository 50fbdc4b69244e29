import type { VerdictAnswer } from "@amigo/contract/lists";

type Outcome = VerdictAnswer["outcome"];

/** How an outcome is shown: a sign, its words, and a colour that is never alone. */
export const OUTCOMES: Record<Outcome, { sign: string; words: string; look: string }> = {
  "goes out": { sign: "✓", words: "Goes out", look: "text-leaf-ink" },
  held: { sign: "!", words: "Held", look: "text-marigold-ink" },
  returned: { sign: "−", words: "Returned", look: "text-brick" },
  dropped: { sign: "−", words: "Discarded", look: "text-brick" },
};

export const PROOF_CHOICES = [
  { value: "signed-in", name: "signed in, here or in their mail program" },
  { value: "dkim", name: "signed by their domain (DKIM)" },
  { value: "spf", name: "from a relay that their domain names (SPF)" },
  { value: "none", name: "without proof of who sent it" },
] as const;

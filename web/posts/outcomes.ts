import type { VerdictAnswer } from "@amigo/contract/tries";
import { t } from "../texts/ui";

type Outcome = VerdictAnswer["outcome"];

/** How an outcome is shown: a sign, its words, and a colour that is never alone. */
export const OUTCOMES: Record<Outcome, { sign: string; words: string; look: string }> = {
  "goes out": { sign: "✓", words: t("ui.goesOut"), look: "text-leaf-ink" },
  held: { sign: "!", words: t("ui.held2"), look: "text-marigold-ink" },
  returned: { sign: "−", words: t("ui.returned"), look: "text-brick" },
  dropped: { sign: "−", words: t("ui.discarded"), look: "text-brick" },
};

export const PROOF_CHOICES = [
  { value: "signed-in", name: t("ui.signedInHereOrIn") },
  { value: "dkim", name: t("ui.signedByTheirDomainDkim") },
  { value: "spf", name: t("ui.fromARelayThatTheir") },
  { value: "none", name: t("ui.withoutProofOfWhoSent") },
] as const;

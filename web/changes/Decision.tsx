import { Check, Pause } from "lucide-react";
import type { CausesOfRound } from "../data/rounds";
import { Minus, Plus, Tilde } from "../ui/Signs";
import { t } from "../texts/changes";

export type Verdict = "accepted" | "held";

/** Accepts or holds one cause, or all of a section or class. */
export type Decide = (causes: { key: string } | CausesOfRound, decision: Verdict) => void;

/** How many addresses join, leave and are replaced. */
export function Sums({ of }: { of: { joins: number; leaves: number; replaced: number } }) {
  return (
    <span className="flex justify-end gap-1.5">
      <Plus count={of.joins} />
      <Minus count={of.leaves} />
      <Tilde count={of.replaced} />
    </span>
  );
}

/** A box that says whether a change, or several, are accepted or on hold, and changes that. */
export function Decision({
  counts: { count, accepted },
  label,
  decidable,
  onDecide,
}: {
  counts: { count: number; accepted: number };
  label: string;
  decidable: boolean;
  onDecide: (decision: Verdict) => void;
}) {
  const state = accepted === count ? "accepted" : accepted === 0 ? "held" : "some";
  return (
    <button
      type="button"
      role="checkbox"
      aria-checked={state === "some" ? "mixed" : state === "accepted"}
      aria-label={t("changes.accept2", { label })}
      title={
        state === "accepted"
          ? t("changes.acceptedPressToHold")
          : state === "held"
            ? t("changes.onHoldPressToAccept")
            : t("changes.someAreOnHoldPress")
      }
      disabled={!decidable}
      onClick={() => onDecide(state === "accepted" ? "held" : "accepted")}
      className={`mt-0.5 flex size-[18px] shrink-0 items-center justify-center rounded border forced-color-adjust-none ${state === "accepted" ? "border-petrol bg-petrol text-on-petrol" : "border-marigold bg-marigold-soft text-marigold-ink"}`}
    >
      {state === "accepted" ? (
        <Check size={13} strokeWidth={3} aria-hidden="true" />
      ) : state === "held" ? (
        <Pause size={11} strokeWidth={3} aria-hidden="true" />
      ) : (
        <b aria-hidden="true">–</b>
      )}
    </button>
  );
}

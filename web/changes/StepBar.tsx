import type { Ref } from "react";
import type { RoundPage } from "@amigo/contract/rounds";
import { Rich, t } from "../texts/changes";
import { Button } from "../ui/Button";
import { Progress } from "../ui/Progress";
import { Minus, Plus, Tilde } from "../ui/Signs";

type Counts = RoundPage["totals"];

/** The line below a round: what it comes to, and the button that brings the lists in step. */
export function StepBar({
  totals,
  isOpen,
  isStepping,
  isWaiting,
  unpassed,
  button,
  onStep,
  onStop,
}: {
  totals: Counts;
  isOpen: boolean;
  isStepping: boolean;
  /** Whether a decision is under way, after which the totals are others. */
  isWaiting: boolean;
  /** How many safety checks are still to be confirmed. */
  unpassed: number;
  button: Ref<HTMLButtonElement>;
  onStep: () => void;
  onStop: () => void;
}) {
  return (
    <div className="sticky -bottom-4 z-20 -mx-3 -mb-4 mt-3 flex flex-wrap items-center gap-x-5 gap-y-2 border-t border-hair bg-panel px-3 py-2.5 md:-mx-5 md:px-5">
      <Totals totals={totals} />
      {isOpen && isStepping && (
        <div className="w-full md:ml-auto md:w-96">
          <Progress what={t("changes.bringingInStep")} onStop={onStop} />
        </div>
      )}
      {isOpen && !isStepping && (
        <span className="flex flex-wrap items-center gap-3 max-md:w-full md:ml-auto">
          {unpassed > 0 && totals.accepted > 0 && (
            <span className="text-marigold-ink">
              {t("changes.safetyChecksToConfirmAbove", { unpassed })}
            </span>
          )}
          <Button
            ref={button}
            look="go"
            disabled={isWaiting || totals.accepted === 0 || unpassed > 0}
            onClick={onStep}
          >
            {stepWords(totals)}
          </Button>
        </span>
      )}
    </div>
  );
}

function stepWords({ accepted, lists }: Counts): string {
  if (accepted === 0) return t("changes.allChangesAreOnHold");
  return lists === 0
    ? t("changes.acceptChanges", { accepted })
    : t("changes.bringListsInStep", { lists });
}

function Totals({ totals }: { totals: Counts }) {
  return (
    <>
      <span>
        <Rich
          id="changes.acceptedOnHold"
          changes={
            <b className="font-[650]">
              {t("changes.changes3", { count: totals.accepted + totals.held })}
            </b>
          }
          accepted={totals.accepted}
          held={totals.held}
        />
      </span>
      <span className="flex gap-3">
        <span>
          <Rich
            id="changes.join"
            plus={<Plus count={totals.joins} />}
            isJoins={String(totals.joins > 0)}
          />
        </span>
        <span>
          <Rich
            id="changes.leave"
            minus={<Minus count={totals.leaves} />}
            isLeaves={String(totals.leaves > 0)}
          />
        </span>
        <span>
          <Tilde count={totals.replaced} />
          {totals.replaced > 0 && t("changes.replaced", { replaced: totals.replaced })}
        </span>
      </span>
    </>
  );
}

import type { IntakeRow } from "@amigo/contract/intakes";
import { INTAKE_COLUMNS } from "@amigo/core/intake/intake";
import { t } from "../texts/intakes";

const OUTCOME_LOOK: Record<IntakeRow["outcome"], string> = {
  "": "text-ink-3",
  added: "text-leaf-ink",
  already: "text-ink-2",
  asked: "text-ink-2",
  waiting: "text-marigold-ink",
  refused: "text-brick",
  ended: "text-ink-3",
};

const OUTCOME_SIGN: Record<IntakeRow["outcome"], string> = {
  "": "",
  added: "+ ",
  already: "= ",
  asked: "? ",
  waiting: "! ",
  refused: "× ",
  ended: "− ",
};

export function ResultCell({ fact, ticked }: { fact: IntakeRow | undefined; ticked: boolean }) {
  return (
    <div
      role="gridcell"
      aria-colindex={INTAKE_COLUMNS.length + 3}
      title={fact?.sentence}
      className={`flex min-w-0 flex-1 items-center border-l border-hair-soft px-2 text-[12px] leading-[14px] ${OUTCOME_LOOK[fact?.outcome ?? ""]}`}
    >
      <span className="line-clamp-2">
        {fact === undefined ? (
          ""
        ) : fact.outcome === "" ? (
          ticked ? (
            t("intakes.approvedByWaitingForIts", { approvedBy: fact.approvedBy })
          ) : (
            ""
          )
        ) : (
          <>
            {OUTCOME_SIGN[fact.outcome]}
            {fact.sentence}
          </>
        )}
      </span>
    </div>
  );
}

import type { IntakeRow } from "@amigo/contract/intakes";
import { INTAKE_COLUMNS } from "@amigo/core/intake/intake";
import { t } from "../texts/intakes";
import type { GridRow } from "./gridEdits";

export function ApprovalCell({
  fact,
  onApprove,
  row,
  down,
  ticked,
}: {
  fact: IntakeRow | undefined;
  onApprove: ((ids: string[], approve: boolean) => void) | undefined;
  row: GridRow;
  down: number;
  ticked: boolean;
}) {
  return (
    <div
      role="gridcell"
      aria-colindex={INTAKE_COLUMNS.length + 2}
      className="flex w-[74px] shrink-0 items-center justify-center border-l border-hair-soft"
    >
      {fact !== undefined &&
        (onApprove !== undefined && fact.mayApprove && !row.locked && fact.outcome === "" ? (
          <input
            type="checkbox"
            tabIndex={-1}
            aria-label={t("intakes.approveRow", { row: down + 1 })}
            checked={ticked}
            onChange={() => onApprove([row.id], !ticked)}
            className="size-4"
          />
        ) : ticked ? (
          <span
            title={t("intakes.approvedBy", { approvedBy: fact.approvedBy })}
            className="text-leaf-ink"
          >
            ✓
          </span>
        ) : null)}
    </div>
  );
}

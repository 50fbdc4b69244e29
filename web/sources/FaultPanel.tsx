import type { ReactNode } from "react";
import { columnLetters } from "@amigo/core/sheet/sheet";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";
import { countFaults, needsSomebody } from "./useFaultSteps";
import { Rich, t } from "../texts/sources";
import type { ShownFault } from "./shownFault";

const ANSWERS = {
  clean: t("sources.readThisWay"),
  probably: t("sources.probablyMeant"),
  unusable: t("sources.cannotBeUsed"),
} as const;

/** The faulty cell in hand, explained, with the way to put it right; below it the counts of all faults by kind. */
export function FaultPanel({
  faults,
  chosen,
  who,
  fix,
  onStep,
  onChoose,
  children,
}: {
  faults: readonly ShownFault[];
  who: (row: number) => string;
  chosen: ShownFault | undefined;
  /** The form that takes the fix; undefined where the sheet was not read yet. */ fix?:
    ((fault: ShownFault) => ReactNode) | undefined;
  onStep: (by: 1 | -1) => void;
  onChoose: (fault: ShownFault) => void;
  children?: ReactNode;
}) {
  const counts = countFaults(faults);
  const kinds = new Map<string, ShownFault[]>();
  for (const fault of faults)
    kinds.set(fault.sentence, [...(kinds.get(fault.sentence) ?? []), fault]);
  const order = { unusable: 0, probably: 1, clean: 2 };
  const sorted = [...kinds].sort(
    (a, b) => order[a[1][0]?.answer ?? "clean"] - order[b[1][0]?.answer ?? "clean"],
  );
  return (
    <div className="flex min-w-0 flex-col lg:min-h-0 gap-3 overflow-auto">
      {chosen === undefined && children}
      {(faults.length > 0 || chosen !== undefined) && (
        <ChosenFault chosen={chosen} counts={counts} who={who} fix={fix} onStep={onStep} />
      )}
      {faults.length > 0 && (
        <Panel className="px-4 py-3">
          <h2 className="mb-1">{t("sources.faultsByKind")}</h2>
          <ul>
            {sorted.map(([sentence, value]) => {
              const open = value.filter(needsSomebody);
              return (
                <li key={sentence}>
                  <button
                    type="button"
                    onClick={() => {
                      const first = open[0] ?? value[0];
                      if (first !== undefined) onChoose(first);
                    }}
                    className="flex w-full justify-between gap-3 border-t border-hair-soft py-1 text-left text-[13px] hover:text-petrol"
                  >
                    <span>
                      {open.length === 0 ? (
                        <b className="text-leaf-ink">✓ </b>
                      ) : (
                        <b className="text-marigold-ink">! </b>
                      )}
                      {sentence}
                    </span>
                    <span className="text-ink-2">{value.length}</span>
                  </button>
                </li>
              );
            })}
          </ul>
        </Panel>
      )}
      {chosen !== undefined && children}
    </div>
  );
}

function ChosenFault({
  chosen,
  counts,
  who,
  fix,
  onStep,
}: {
  chosen: ShownFault | undefined;
  counts: { faults: number; toDecide: number; fixed: number; bouncing: number };
  who: (row: number) => string;
  fix: ((fault: ShownFault) => ReactNode) | undefined;
  onStep: (by: 1 | -1) => void;
}) {
  return (
    <Panel className="px-4 py-3.5">
      {chosen === undefined ? (
        <>
          <h2>
            {counts.toDecide > 0
              ? t("sources.cellsToFix", { value: counts.toDecide })
              : t("sources.cellsTidied", { faults: counts.fixed })}
          </h2>
          <p className="mt-1 text-ink-2">{t("sources.chooseAMarkedCellTo")}</p>
        </>
      ) : (
        <div>
          <div role="status">
            <h2>
              {t("sources.rowColumn", {
                row: chosen.row,
                column: columnLetters(chosen.column),
                sentence: chosen.sentence,
              })}
            </h2>
            {who(chosen.row) !== "" && (
              <p className="mt-1">
                <Rich id="sources.inTheRowOf" b={<b className="font-[620]">{who(chosen.row)}</b>} />
              </p>
            )}
            <p className="mono mt-1 wrap-anywhere whitespace-pre-wrap">
              {chosen.written === "" ? t("sources.empty") : chosen.written}
            </p>
            <p className="mt-1.5 text-ink-2">{chosen.why}</p>
          </div>
          {fix === undefined ? (
            <div
              className={`mt-2.5 rounded-md border px-2.5 py-2 ${chosen.answer === "unusable" ? "border-marigold-line bg-marigold-soft" : "border-petrol bg-petrol-soft"}`}
            >
              <b className="block font-[620] wrap-anywhere">
                {chosen.proposal ?? t("sources.noAddressFromThisCell")}
              </b>
              <small className="text-[12px] text-ink-2">
                {t("sources.onceTheSheetIsRead", {
                  answer: ANSWERS[chosen.answer],
                  isAnswer: String(chosen.answer !== "clean"),
                })}
              </small>
            </div>
          ) : (
            fix(chosen)
          )}
        </div>
      )}
      <div className="mt-3 flex gap-2">
        <Button onClick={() => onStep(1)}>
          {t("sources.next")} <kbd>N</kbd>
        </Button>
        <Button onClick={() => onStep(-1)}>
          {t("sources.before")} <kbd>P</kbd>
        </Button>
      </div>
    </Panel>
  );
}

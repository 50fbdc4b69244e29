import { said, say } from "@amigo/language/say";
import { useState } from "react";
import { INTAKE_TITLES, type IntakeColumn } from "@amigo/core/intake/intake";
import type { IntakeRow } from "@amigo/contract/intakes";
import { useIntakeHistoryQuery } from "../data/intakes";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { Loading } from "../ui/Page";
import { moment } from "../ui/time";
import { WideTable } from "../ui/WideTable";
import { Rich, t } from "../texts/intakes";

/** The current row: its faults with their fixes, who wrote it, its result and its history. */
export function RowDetail({
  row,
  number,
  column,
  onTake,
}: {
  row: IntakeRow | undefined;
  number: number;
  column: IntakeColumn;
  onTake: (column: IntakeColumn, text: string) => void;
}) {
  const me = useMe();
  const [showing, setShowing] = useState(false);
  if (row === undefined)
    return (
      <div className="border-t border-hair bg-sunk px-4 py-2.5 text-[13px]">
        <Rich
          id="intakes.typeOrPasteRowsOut"
          kbd={<kbd>↵</kbd>}
          kbd2={(chunks) => <kbd>{chunks}</kbd>}
        />
      </div>
    );
  const faults = [...row.faults].sort(
    (one, other) => Number(other.column === column) - Number(one.column === column),
  );
  return (
    <div className="flex min-h-[64px] items-start gap-5 border-t border-hair bg-sunk px-4 py-2.5 text-[13px]">
      <div className="min-w-0 flex-1">
        <p>
          <b>{t("intakes.row5", { number })}</b>{" "}
          <span className="text-ink-3">
            {t("intakes.lastWrittenBy", {
              by: row.by,
              when: moment(row.at, me.timeZone),
              approvedBy: row.approvedBy,
            })}
          </span>
        </p>
        {row.outcome !== "" && (
          <p>
            {row.sentence}
            {row.outcomeAt !== null && (
              <span className="text-ink-3"> {moment(row.outcomeAt, me.timeZone)}</span>
            )}
          </p>
        )}
        {row.outcome === "" && faults.length === 0 && (
          <p className="text-ink-2">
            {row.approvedBy === ""
              ? t("intakes.itIsCompleteAndWaits")
              : t("intakes.itIsApprovedAndWill")}
          </p>
        )}
        <ul>
          {faults.map(({ column: eachColumn, sentence, proposal }) => (
            <li key={eachColumn} className="flex flex-wrap items-center gap-2">
              <span>
                <b className="text-marigold-ink">! {say(INTAKE_TITLES[eachColumn])}:</b> {sentence}
              </span>
              {proposal !== undefined && (
                <Button className="min-h-[24px] px-2" onClick={() => onTake(eachColumn, proposal)}>
                  {t("intakes.use", { proposal })}
                </Button>
              )}
            </li>
          ))}
        </ul>
      </div>
      <Button look="quiet" onClick={() => setShowing(true)}>
        {t("intakes.historyOfRow", { number })}
      </Button>
      {showing && <History id={row.id} number={number} onClose={() => setShowing(false)} />}
    </div>
  );
}

const WHAT: Record<string, string> = {
  ...said(INTAKE_TITLES),
  row: t("intakes.theRow"),
  approval: t("intakes.approval"),
  outcome: t("intakes.result"),
};

function History({ id, number, onClose }: { id: string; number: number; onClose: () => void }) {
  const me = useMe();
  const { data } = useIntakeHistoryQuery(id);
  return (
    <Modal title={t("intakes.historyOfRow", { number })} onClose={onClose} wide>
      {data === undefined ? (
        <Loading what={t("intakes.theHistory")} />
      ) : (
        <WideTable label={t("intakes.versionsOfThisRow")} className="mb-3 w-full text-[13px]">
          <thead>
            <tr className="border-b border-hair text-left text-ink-3">
              {[
                t("intakes.when"),
                t("intakes.who"),
                t("intakes.what"),
                t("intakes.before"),
                t("intakes.after"),
              ].map((title) => (
                <th key={title} className="py-1 pr-3 font-[500]">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {data.map(({ at, by, what, before, after }, place) => (
              <tr key={place} className="border-b border-hair-soft align-baseline">
                <td className="py-1 pr-3 whitespace-nowrap text-ink-3">
                  {moment(at, me.timeZone)}
                </td>
                <td className="py-1 pr-3 whitespace-nowrap">{by}</td>
                <td className="py-1 pr-3 whitespace-nowrap">{WHAT[what] ?? what}</td>
                <td className="py-1 pr-3 text-ink-2">{before === "" ? "–" : before}</td>
                <td className="py-1">{after === "" ? "–" : after}</td>
              </tr>
            ))}
          </tbody>
        </WideTable>
      )}
      <div className="text-right">
        <Button onClick={onClose} autoFocus>
          {t("intakes.close")}
        </Button>
      </div>
    </Modal>
  );
}

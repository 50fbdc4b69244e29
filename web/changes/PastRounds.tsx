import { useState } from "react";
import { Link } from "react-router";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";
import { Minus, Plus, Tilde } from "../ui/Signs";
import { moment } from "../ui/time";
import { useRoundsQuery } from "../data/rounds";
import { TakeBackDialog } from "./TakeBackDialog";
import { Rich, t } from "../texts/changes";

/** The rounds that were carried out, newest first; each can be taken back. */
export function PastRounds({ onDone }: { onDone: (sentence: string) => void }) {
  const me = useMe();
  const { data = [] } = useRoundsQuery();
  const [taking, setTaking] = useState<number>();
  if (data.length === 0) return null;
  return (
    <section aria-label={t("changes.pastRounds")} id="past" className="mt-4">
      <h2 className="mb-2">{t("changes.pastRounds")}</h2>
      <Panel className="overflow-hidden">
        {data.map(({ number, closedAt, closedBy, totals, takesBack, takenBackBy }) => (
          <div
            key={number}
            className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-hair-soft px-3.5 py-2 last:border-b-0 hover:bg-petrol-soft"
          >
            <Link to={`/changes/${number}`} className="w-24 shrink-0 font-[620] hover:underline">
              {t("changes.round2", { number })}
            </Link>
            <span className="text-ink-2 md:w-64 md:truncate">
              {closedAt === null ? "" : moment(closedAt, me.timeZone)}
              {closedBy === null ? "" : `, ${closedBy}`}
            </span>
            <span className="min-w-0 flex-1 basis-48 md:truncate">
              {t("changes.changesLists", {
                accepted: totals.accepted,
                lists: totals.lists,
                held: totals.held,
                undoes: takesBack,
              })}
            </span>
            <span className="flex gap-2">
              <Plus count={totals.joins} />
              <Minus count={totals.leaves} />
              <Tilde count={totals.replaced} />
            </span>
            <span className="text-right md:w-40">
              {takenBackBy === null ? (
                <Button
                  className="min-h-[26px]! px-2.5! text-[13px]"
                  onClick={() => setTaking(number)}
                >
                  <Rich
                    id="changes.undoRound"
                    number={number}
                    span={(chunks) => <span className="sr-only">{chunks}</span>}
                  />
                </Button>
              ) : (
                <span className="text-[13px] text-ink-3">
                  {t("changes.undoneByRound2", { takenBackBy })}
                </span>
              )}
            </span>
          </div>
        ))}
      </Panel>
      {taking !== undefined && (
        <TakeBackDialog
          number={taking}
          onClose={() => setTaking(undefined)}
          onDone={(sentence) => {
            setTaking(undefined);
            onDone(sentence);
          }}
        />
      )}
    </section>
  );
}

import { useRef, useState, type Dispatch, type SetStateAction } from "react";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading } from "../ui/Page";
import { Progress } from "../ui/Progress";
import { Minus, Plus, Tilde, Warn } from "../ui/Signs";
import { usePlannedTakeBackQuery, useTakeBackMutation } from "../data/rounds";
import { kindTitle } from "./kindTitle";
import { Guards, unpassed } from "../edits/Guards";
import { t } from "../texts/changes";
import type { TakeBack } from "@amigo/contract/rounds";

const SHOWN = 12;

/** What taking a round back would do today, what has changed since and is left alone, and the button that does it. */
export function TakeBackDialog({
  number,
  onClose,
  onDone,
}: {
  number: number;
  onClose: () => void;
  onDone: (sentence: string) => void;
}) {
  const { data, error } = usePlannedTakeBackQuery(number);
  const [takeBack, taking] = useTakeBackMutation();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [all, setAll] = useState(false);
  const asked = useRef<{ abort: () => void }>(undefined);
  const run = async (): Promise<void> => {
    const request = takeBack({
      round: number,
      passed: Object.fromEntries((data?.guards ?? []).map(({ id }) => [id, Number(typed[id])])),
    });
    asked.current = request;
    const answer = await request;
    if (answer.data === undefined) return;
    const { round, lists, joins, leaves, next } = answer.data;
    onDone(
      t("changes.roundWasUndoneByRound", {
        number,
        round,
        lists,
        joins,
        leaves,
        isNext: String(next === null),
      }),
    );
  };
  return (
    <Modal wide title={t("changes.undoRound2", { number })} onClose={onClose}>
      <FaultLine error={error} />
      {error === undefined && data === undefined && <Loading what={t("changes.whatItWouldDo")} />}
      {data !== undefined && (
        <div className="flex flex-col gap-3">
          <p className="text-ink-2">{t("changes.aNewRoundUndoesIt")}</p>
          <Guards
            guards={data.guards}
            typed={typed}
            onType={(id, value) => setTyped({ ...typed, [id]: value })}
          />
          {data.causes.length === 0 ? (
            <p>{t("changes.allOfItHasChanged")}</p>
          ) : (
            <Effects all={all} data={data} setAll={setAll} />
          )}
          {data.leftAlone.length > 0 && <LeftAlone data={data} />}
          <FaultLine error={taking.error} />
          {taking.isLoading ? (
            <Progress
              what={t("changes.undoingRound", { number })}
              onStop={() => asked.current?.abort()}
            />
          ) : (
            <TakeBackButtons data={data} onClose={onClose} typed={typed} run={run} />
          )}
        </div>
      )}
    </Modal>
  );
}

function Effects({
  all,
  data,
  setAll,
}: {
  all: boolean;
  data: TakeBack;
  setAll: Dispatch<SetStateAction<boolean>>;
}) {
  return (
    <section aria-label={t("changes.effects")}>
      <h2 className="mb-1">{t("changes.effects")}</h2>
      <ul>
        {(all ? data.causes : data.causes.slice(0, SHOWN)).map(
          ({ kind, title, detail, joins, leaves, replaced }) => (
            <li
              key={`${kind} ${title} ${detail}`}
              className="flex gap-3 border-t border-hair-soft py-1.5"
            >
              <span className="w-36 shrink-0 text-[13px] text-ink-3">{kindTitle(kind)}</span>
              <span className="min-w-0 flex-1">
                <b className="font-[620]">{title}</b> <span className="text-ink-2">{detail}</span>
              </span>
              <span className="flex gap-1.5">
                <Plus count={joins} />
                <Minus count={leaves} />
                <Tilde count={replaced} />
              </span>
            </li>
          ),
        )}
      </ul>
      {data.causes.length > SHOWN && (
        <Button look="quiet" onClick={() => setAll(!all)}>
          {all
            ? t("changes.showFewer")
            : data.causes.length < data.totals.accepted
              ? t("changes.showFirstOf", {
                  shown: data.causes.length,
                  causes: data.totals.accepted,
                })
              : t("changes.showAll2", { causes: data.causes.length })}
        </Button>
      )}
    </section>
  );
}

function LeftAlone({ data }: { data: TakeBack }) {
  return (
    <section aria-label={t("changes.leftAlone")}>
      <h2 className="mb-1">
        <Warn>{t("changes.thingsLeftAlone", { leftAlone: data.leftAlone.length })}</Warn>
      </h2>
      <ul className="max-h-40 overflow-auto text-[13px]">
        {data.leftAlone.map((sentence) => (
          <li key={sentence} className="border-t border-hair-soft py-1">
            {sentence}
          </li>
        ))}
      </ul>
    </section>
  );
}

function TakeBackButtons({
  data,
  onClose,
  typed,
  run,
}: {
  data: TakeBack;
  onClose: () => void;
  typed: Record<string, string>;
  run: () => Promise<void>;
}) {
  return (
    <div className="flex items-center justify-end gap-2">
      <span className="mr-auto flex gap-3">
        <Plus count={data.totals.joins} />
        <Minus count={data.totals.leaves} />
        <Tilde count={data.totals.replaced} />
      </span>
      <Button onClick={onClose}>{t("changes.close")}</Button>
      <Button
        look="go"
        disabled={data.causes.length === 0 || unpassed(data.guards, typed).length > 0}
        onClick={() => void run()}
      >
        {t("changes.undoChangesOnLists", {
          causes: data.totals.accepted,
          lists: data.totals.lists,
        })}
      </Button>
    </div>
  );
}

import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, Panel } from "../ui/Page";
import { moment } from "../ui/time";
import { useByHandQuery, useWithdrawMutation } from "../data/people";
import { t } from "../texts/people";

/** What was said by hand and holds for every later reading, with who said it; each can be taken back. */
export function ByHand() {
  const { data } = useByHandQuery();
  if (data === undefined) return <Loading what={t("people.whatWasSaid")} />;
  if (data.length === 0)
    return (
      <Empty title={t("people.noManualChanges")}>
        <p>{t("people.answersToQuestionsMergedOr")}</p>
      </Empty>
    );
  return (
    <Panel className="overflow-hidden px-4 py-1">
      <Said entries={data} />
    </Panel>
  );
}

/** A few of them, as a list. */
export function Said({
  entries,
}: {
  entries: readonly { id: number; sentence: string; by: string; at: string }[];
}) {
  const me = useMe();
  const [withdraw, withdrawing] = useWithdrawMutation();
  return (
    <>
      <FaultLine error={withdrawing.error} />
      <ul>
        {entries.map(({ id, sentence, by, at }) => (
          <li
            key={id}
            className="flex items-start gap-3 border-t border-hair-soft py-2 first:border-t-0"
          >
            <span className="min-w-0 flex-1 wrap-anywhere">
              {sentence}
              <span className="block text-[13px] text-ink-3">
                {by}, {moment(at, me.timeZone)}
              </span>
            </span>
            <Button
              className="min-h-[26px]! px-2.5! text-[13px]"
              disabled={withdrawing.isLoading}
              onClick={() => void withdraw(id)}
            >
              {t("people.undo")}
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}

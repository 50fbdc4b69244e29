import { useState } from "react";
import type { DatePage as DateShown, DateWhen } from "@amigo/contract/dates";
import { useChangeTimeMutation } from "../data/dates";
import { t } from "../texts/dates";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { dayOf } from "../ui/time";
import { WhenFields } from "./WhenFields";
import { whenWords } from "../ui/whenWords";
import { shortWhen } from "./dateWords";

/** The times of a repeated date that are still to come: each can be moved or dropped by itself. */
export function TimesToCome({ date }: { date: DateShown }) {
  const [moving, setMoving] = useState<{ day: string; when: DateWhen }>();
  const [change, changing] = useChangeTimeMutation();
  const { id, sequence } = date;
  return (
    <>
      <ul>
        {date.next.map(({ day, when }) => (
          <li
            key={day}
            className="flex flex-wrap items-center gap-x-2 gap-y-1 border-t border-hair-soft py-1 first:border-t-0"
          >
            <span className="min-w-0 flex-1">{shortWhen(when)}</span>
            {date.mayChange && (
              <>
                <Button
                  look="quiet"
                  aria-label={t("dates.moveTime", { when: whenWords(when) })}
                  onClick={() => setMoving({ day, when })}
                >
                  {t("dates.move")}
                </Button>
                <Button
                  look="quiet"
                  aria-label={t("dates.dropTime", { when: whenWords(when) })}
                  disabled={changing.isLoading}
                  onClick={() => void change({ id, day, to: "dropped", sequence })}
                >
                  {t("dates.drop")}
                </Button>
              </>
            )}
          </li>
        ))}
        {date.dropped.map((day) => (
          <li
            key={day}
            className="flex flex-wrap items-center gap-2 border-t border-hair-soft py-1 text-ink-3"
          >
            <span className="min-w-0 flex-1 line-through">{dayOf(day)}</span>
            {date.mayChange && (
              <Button
                look="quiet"
                aria-label={t("dates.restoreTime", { day: dayOf(day) })}
                disabled={changing.isLoading}
                onClick={() => void change({ id, day, to: "planned", sequence })}
              >
                {t("dates.restore")}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <FaultLine error={changing.error} />
      {moving !== undefined && (
        <MoveTime date={date} time={moving} onClose={() => setMoving(undefined)} />
      )}
    </>
  );
}

function MoveTime({
  date,
  time,
  onClose,
}: {
  date: DateShown;
  time: { day: string; when: DateWhen };
  onClose: () => void;
}) {
  const [when, setWhen] = useState(time.when);
  const [change, changing] = useChangeTimeMutation();
  const move = async (): Promise<void> => {
    const done = await change({ id: date.id, day: time.day, to: when, sequence: date.sequence });
    if (done.error === undefined) onClose();
  };
  return (
    <Modal title={t("dates.moveTitle", { when: whenWords(time.when) })} onClose={onClose}>
      <WhenFields when={when} onChange={setWhen} />
      <FaultLine error={changing.error} />
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button onClick={onClose}>{t("dates.cancel")}</Button>
        <Button look="go" disabled={changing.isLoading} onClick={() => void move()}>
          {t("dates.moveAndTell", { addresses: date.counts.addresses })}
        </Button>
      </div>
    </Modal>
  );
}

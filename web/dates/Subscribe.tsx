import { useState } from "react";
import { useAllListsQuery } from "../data/lists";
import { useEndFeedMutation, useFeedQuery, useMakeFeedMutation, type FeedOf } from "../data/feeds";
import { useMe } from "../data/me";
import { t } from "../texts/dates";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { FeedAddress } from "../ui/FeedAddress";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading } from "../ui/Page";

/** The addresses by which calendar programs show dates: one's own, those of one list, or all of the house. */
export function Subscribe({ onClose }: { onClose: () => void }) {
  const me = useMe();
  const [chosen, setChosen] = useState("account");
  const { data: all } = useAllListsQuery("");
  const of: FeedOf =
    chosen === "account" || chosen === "house"
      ? { kind: chosen, list: "" }
      : { kind: "list", list: chosen };
  const { data, error } = useFeedQuery(of);
  const [make, making] = useMakeFeedMutation();
  const [end, ending] = useEndFeedMutation();
  return (
    <Modal title={t("dates.showInYourCalendar")} onClose={onClose}>
      <p className="mb-3">{t("dates.subscribeHelp")}</p>
      <div className="mb-3">
        <Choice
          label={t("dates.whichDates")}
          value={chosen}
          options={[
            { value: "account", name: t("dates.allThatISee") },
            ...(me.role === "coordinator"
              ? [{ value: "house", name: t("dates.allOfTheHouse") }]
              : []),
            ...(all?.lists ?? [])
              .filter(({ state }) => state === "open")
              .map(({ id, title }) => ({ value: id, name: title })),
          ]}
          onChange={setChosen}
        />
      </div>
      {data === undefined ? (
        error === undefined && <Loading what={t("dates.theAddress")} />
      ) : (
        <FeedAddress
          url={data.url}
          isBusy={making.isLoading || ending.isLoading}
          onMake={() => void make(of)}
          onEnd={() => void end(of)}
        />
      )}
      <FaultLine error={error ?? making.error ?? ending.error} />
      <p className="mt-4 text-[13px] text-ink-2">{t("dates.programsCanWrite")}</p>
      <div className="mt-3 flex justify-end">
        <Button onClick={onClose}>{t("dates.close")}</Button>
      </div>
    </Modal>
  );
}

import { useState } from "react";
import type { MemberLists } from "@amigo/contract/member";
import { usePauseMutation } from "../data/member";
import { t } from "../texts/member";
import { Button } from "../ui/Button";
import { DayField } from "../ui/DayField";
import { Panel, FaultLine } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { dayOf, today } from "../ui/time";

export function Pause({ own: item }: { own: MemberLists }) {
  const [until, setUntil] = useState("");
  const [pause, { error, isLoading }] = usePauseMutation();
  return (
    <Panel className="px-4 py-3">
      {item.pausedUntil !== "" ? (
        <p className="flex flex-wrap items-center gap-3">
          <Warn>{t("member.youGetNoMailOf", { when: dayOf(item.pausedUntil, item.locale) })}</Warn>
          <Button disabled={isLoading} onClick={() => void pause("")}>
            {t("member.getMailAgain")}
          </Button>
        </p>
      ) : (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void pause(until);
          }}
        >
          <DayField
            label={t("member.getNoMailOfAny")}

            min={today(item.timeZone)}
            value={until}
            onChange={setUntil}
          />
          <Button type="submit" disabled={until === "" || isLoading}>
            {t("member.pause")}
          </Button>
        </form>
      )}
      <FaultLine error={error} />
    </Panel>
  );
}

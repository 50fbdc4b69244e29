import { useState, type FormEvent } from "react";
import { may } from "@amigo/core/access/may";
import { splitAddresses } from "@amigo/core/address/splitAddresses";
import type { ListPage } from "@amigo/contract/lists";
import type { Kept } from "@amigo/contract/members";
import { useMe } from "../data/me";
import { useKeepMutation, useKeptQuery, useLetGoMutation } from "../data/lists";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { FaultLine, Panel } from "../ui/Page";
import { dayOf, today } from "../ui/time";
import { DayField } from "../ui/DayField";
import { Rich, t } from "../texts/list";

/** Whom somebody keeps on this list, or off it, whatever the sheets say: why, by whom, until when. */
export function Keep({ list }: { list: ListPage }) {
  const me = useMe();
  const { data: kept = [] } = useKeptQuery(list.id);
  const [keep, keeping] = useKeepMutation();
  const [letGo, going] = useLetGoMutation();
  const [open, setOpen] = useState(false);
  const [side, setSide] = useState<"on" | "off">("on");
  const [address, setAddress] = useState("");
  const [reason, setReason] = useState("");
  const [lastDay, setLastDay] = useState("");
  const { pieces: found, leftOver } = splitAddresses(address);
  const pieces = found.length === 0 ? [address] : [...new Set(found)];
  const mayKeep = may(me.role, "keep on lists");
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    for (const one of pieces) {
      const answer = await keep({ id: list.id, address: one, side, reason, lastDay });
      if (answer.data === undefined) return;
    }
    setAddress("");
    setReason("");
    setLastDay("");
    setOpen(false);
  };
  return (
    <Panel className="px-[18px] py-3.5">
      <h2 className="mb-1">{t("list.alwaysOrNeverOnThis")}</h2>
      {kept.length === 0 && (
        <p className="text-[13px] text-ink-3">{t("list.nobodyTheRosterAloneDecides")}</p>
      )}
      <ul>
        {kept.map((entry) => (
          <KeptEntry
            key={entry.address}
            entry={entry}
            mayKeep={mayKeep}
            going={going}
            letGo={letGo}
            list={list}
          />
        ))}
      </ul>
      <FaultLine error={going.error} />
      {mayKeep && !open && (
        <Button className="mt-2" onClick={() => setOpen(true)}>
          {t("list.addAManualException")}
        </Button>
      )}
      {open && (
        <form
          className="mt-2 flex flex-col gap-2 border-t border-hair-soft pt-2"
          onSubmit={(event) => void submit(event)}
        >
          <Choice
            label={t("list.side")}
            value={side}
            onChange={setSide}
            options={[
              { value: "on", name: t("list.alwaysOnThisList") },
              { value: "off", name: t("list.neverOnThisList") },
            ]}
            className="justify-between"
          />
          <label className="block text-[13px] font-[560]">
            {t("list.addresses2")}
            <textarea
              autoFocus
              rows={pieces.length > 1 ? 4 : 1}
              value={address}
              onChange={(event) => setAddress(event.target.value)}
              className="mono mt-1 block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 font-normal"
            />
          </label>
          <p className="text-[12px] text-ink-3">
            <Rich
              id="list.oneOrSeveralAsThey"
              leftOver={
                found.length > 0 &&
                leftOver.length > 0 && (
                  <span role="status" className="block text-marigold-ink">
                    <Rich id="list.leftOver" b={<b>! </b>} list={leftOver.join(", ")} />
                  </span>
                )
              }
            />
          </p>
          <Field
            label={t("list.reason")}
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            maxLength={300}
          />
          <DayField
            label={t("list.lastDayIfThereIs")}

            min={today(me.timeZone)}
            value={lastDay}
            onChange={setLastDay}
          />
          <FaultLine error={keeping.error} />
          <div className="flex gap-2">
            <Button
              type="submit"
              look="go"
              disabled={keeping.isLoading || address.trim() === "" || reason.trim() === ""}
            >
              {t("list.keep", {
                pieces: pieces.length,
                side,
              })}
            </Button>
            <Button onClick={() => setOpen(false)}>{t("list.close")}</Button>
          </div>
        </form>
      )}
    </Panel>
  );
}

function KeptEntry({
  entry,
  mayKeep,
  going,
  letGo,
  list,
}: {
  entry: Kept;
  mayKeep: boolean;
  going: ReturnType<typeof useLetGoMutation>[1];
  letGo: ReturnType<typeof useLetGoMutation>[0];
  list: ListPage;
}) {
  return (
    <li className="flex items-start gap-2 border-t border-hair-soft py-1.5 text-[13px]">
      <b className={`w-8 shrink-0 ${entry.side === "on" ? "text-leaf-ink" : "text-brick"}`}>
        {entry.side === "on" ? t("list.on") : t("list.off")}
      </b>
      <span className="min-w-0 flex-1">
        <Address>{entry.address}</Address>
        <span className="block text-ink-2">{entry.reason}</span>
        <span className="block text-ink-3">
          {entry.by}
          {entry.lastDay !== "" && t("list.until", { when: dayOf(entry.lastDay) })}
        </span>
      </span>
      {mayKeep && (
        <Button
          className="min-h-[26px]! px-2! text-[13px]"
          disabled={going.isLoading}
          onClick={() => void letGo({ id: list.id, address: entry.address })}
        >
          <Rich id="list.remove" address={<span className="sr-only"> {entry.address}</span>} />
        </Button>
      )}
    </li>
  );
}

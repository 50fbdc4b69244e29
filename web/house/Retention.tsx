import { useState, type FormEvent, type Dispatch, type SetStateAction } from "react";
import { say } from "@amigo/language/say";
import { countKept, KEPT, KEPT_KINDS, type KeptKind } from "@amigo/core/retention/kept";
import type { Retention } from "@amigo/contract/retention";
import {
  useChangeRetentionMutation,
  usePreviewRetentionMutation,
  useRetentionQuery,
} from "../data/house";
import { Button } from "../ui/Button";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { Renewable, SettingsFault } from "./Renewable";
import { WideTable } from "../ui/WideTable";
import { Rich, t } from "../texts/house";

/** How long everything is kept. */
export function RetentionTab() {
  const { data, error } = useRetentionQuery();
  if (data === undefined)
    return error === undefined ? (
      <Loading what={t("house.theTimes")} />
    ) : (
      <FaultLine error={error} />
    );
  return <Renewable>{(renew) => <RetentionForm retention={data} onRenew={renew} />}</Renewable>;
}

function RetentionForm({ retention, onRenew }: { retention: Retention; onRenew: () => void }) {
  const [version, setVersion] = useState(retention.version);
  const [typed, setTyped] = useState(
    () =>
      Object.fromEntries(
        KEPT_KINDS.map((kind) => [kind, String(retention.times[kind] ?? "")]),
      ) as Record<KeptKind, string>,
  );
  const [preview, previewing] = usePreviewRetentionMutation();
  const [change, changing] = useChangeRetentionMutation();
  const times = Object.fromEntries(
    KEPT_KINDS.map((kind) => [kind, typed[kind].trim() === "" ? null : Number(typed[kind])]),
  ) as Retention["times"];
  const gone = previewing.data;
  const losing = KEPT_KINDS.filter((kind) => (gone?.[kind] ?? 0) > 0);
  const save = async (): Promise<void> => {
    const { data } = await change({ times, version });
    previewing.reset();
    if (data !== undefined) setVersion(data.version);
  };
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    changing.reset();
    const { data } = await preview(times);
    if (data !== undefined && KEPT_KINDS.every((kind) => data[kind] === 0)) await save();
  };
  return (
    <form className="max-w-5xl" onSubmit={(event) => void submit(event)}>
      <p className="mb-2.5 text-ink-2">{t("house.whatIsOlderThanIts")}</p>
      <KeepTable typed={typed} previewing={previewing} setTyped={setTyped} />
      <div className="mt-3 flex flex-col gap-2">
        <SettingsFault error={previewing.error ?? changing.error} onRenew={onRenew} />
        {losing.length > 0 && (
          <div
            role="alert"
            className="rounded-md border border-marigold-line bg-marigold-soft px-3 py-2"
          >
            <b className="font-[620]">{t("house.withTheseTimesTheNext")}</b>
            <ul className="my-1 list-disc pl-5">
              {losing.map((kind) => (
                <li key={kind}>
                  {t("house.keptAndCount", {
                    name: KEPT[kind].name,
                    count: countKept(kind, gone?.[kind] ?? 0),
                  })}
                </li>
              ))}
            </ul>
            <span className="flex gap-2">
              <Button onClick={() => previewing.reset()}>{t("house.cancel")}</Button>
              <Button look="go" disabled={changing.isLoading} onClick={() => void save()}>
                {t("house.saveAndRemoveTonight")}
              </Button>
            </span>
          </div>
        )}
        <div className="flex items-center gap-3">
          {losing.length === 0 && (
            <Button type="submit" look="go" disabled={previewing.isLoading || changing.isLoading}>
              {t("house.save")}
            </Button>
          )}
          {changing.isSuccess && (
            <span role="status" className="text-leaf-ink">
              {t("house.saved")}
            </span>
          )}
        </div>
      </div>
    </form>
  );
}

function KeepTable({
  typed,
  previewing,
  setTyped,
}: {
  typed: Record<KeptKind, string>;
  previewing: ReturnType<typeof usePreviewRetentionMutation>[1];
  setTyped: Dispatch<SetStateAction<Record<KeptKind, string>>>;
}) {
  return (
    <Panel>
      <WideTable label={t("house.whatIsKept")} className="w-full">
        <thead>
          <tr className="border-b border-hair text-left text-[12px] text-ink-3">
            <th className="px-4 py-1.5 font-[500]">{t("house.what")}</th>
            <th className="px-4 py-1.5 font-[500]">{t("house.keepFor")}</th>
            <th className="px-4 py-1.5 font-[500]">{t("house.howLongIsUsual")}</th>
          </tr>
        </thead>
        <tbody>
          {KEPT_KINDS.map((kind) => {
            const { name, what, why, least } = KEPT[kind];
            return (
              <tr key={kind} className="border-b border-hair-soft align-top last:border-b-0">
                <td className="w-[38%] px-4 py-2">
                  <b className="font-[620]">{say(name)}</b>
                  <span className="block text-[13px] text-ink-2">{say(what)}</span>
                </td>
                <td className="px-4 py-2 whitespace-nowrap">
                  <Rich
                    id="house.days"
                    input={
                      <input
                        aria-label={t("house.daysToKeep", { name })}
                        inputMode="numeric"
                        value={typed[kind]}
                        placeholder={t("house.forGood")}
                        onChange={(event) => {
                          previewing.reset();
                          setTyped({ ...typed, [kind]: event.target.value.replace(/\D/g, "") });
                        }}
                        className="h-[30px] w-24 rounded-md border border-hair bg-panel px-2.5 hover:border-ink-3"
                      />
                    }
                    note={
                      least > 1 && (
                        <span className="block text-[13px] text-ink-3">
                          {t("house.atLeast", { least })}
                        </span>
                      )
                    }
                  />
                </td>
                <td className="px-4 py-2 text-[13px] text-ink-2">{say(why)}</td>
              </tr>
            );
          })}
        </tbody>
      </WideTable>
    </Panel>
  );
}

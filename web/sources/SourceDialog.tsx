import type { z } from "zod";
import type { getWatched } from "@amigo/contract/sources";
import { useState, type FormEvent, type Dispatch, type SetStateAction } from "react";
import { scheduleInWords } from "@amigo/core/schedule/schedule";
import type { SourceLine, SourceSettings } from "@amigo/contract/sources";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { DaysAndTimes, readTimes } from "../ui/DaysAndTimes";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { useChangeSourceMutation, useWatchedQuery } from "../data/sources";
import { t } from "../texts/sources";
import type { Me } from "@amigo/contract/accounts";

/** Where the rows of a source come from, when it is read by itself, and what then happens. */
export function SourceDialog({ source, onClose }: { source: SourceLine; onClose: () => void }) {
  const me = useMe();
  const { data: watched } = useWatchedQuery();
  const [settings, setSettings] = useState<SourceSettings>({
    name: source.name,
    kind: source.kind,
    location: source.location,
    schedule: source.schedule,
    mode: source.mode,
    whole: source.whole,
    limits: source.limits,
    answersBeside: source.answersBeside,
  });
  const [version] = useState(source.version);
  const [times, setTimes] = useState(
    source.schedule?.when === "times" ? source.schedule.times.join(", ") : "07:30",
  );
  const [share, setShare] = useState(
    source.limits.sourceShare === undefined
      ? ""
      : String(Math.round(source.limits.sourceShare * 100)),
  );
  const [change, changing] = useChangeSourceMutation();
  const set = (part: Partial<SourceSettings>): void =>
    setSettings((before) => ({ ...before, ...part }));
  const itself = settings.kind === "watched" || settings.kind === "web";
  const schedule =
    settings.schedule?.when === "times"
      ? { ...settings.schedule, times: readTimes(times) }
      : settings.schedule;
  const days = settings.schedule?.when === "times" ? settings.schedule.days : [];
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const limits = share.trim() === "" ? {} : { sourceShare: Number(share) / 100 };
    const answer = await change({
      id: source.id,
      settings: { ...settings, schedule: itself ? schedule : null, limits, version },
    });
    if (answer.data !== undefined) onClose();
  };
  return (
    <Modal title={t("sources.importSettingsOf", { name: source.name })} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <Field
          label={t("sources.name")}
          value={settings.name}
          onChange={(event) => set({ name: event.target.value })}
          maxLength={80}
        />
        {settings.kind !== "posted" && (
          <PlaceKind settings={settings} set={set} watched={watched} />
        )}
        {settings.kind === "web" && (
          <Field
            label={t("sources.webAddress")}
            help={t("sources.aLinkToCsvXlsxOr")}
            value={settings.location}
            onChange={(event) => set({ location: event.target.value })}
            className="[&_input]:font-mono"
          />
        )}
        {settings.kind === "watched" && watched != null && (
          <Choice
            label={t("sources.file")}
            value={settings.location}
            onChange={(location) => set({ location })}
            options={watched.files.map(({ name }) => ({ value: name, name }))}
            className="justify-between"
          />
        )}
        {itself && (
          <ReadingTimes
            settings={settings}
            set={set}
            days={days}
            times={times}
            me={me}
            setTimes={setTimes}
          />
        )}
        {(itself || settings.kind === "posted") && <WhatFollows settings={settings} set={set} />}
        {settings.kind !== "posted" && (
          <Choice
            label={t("sources.childrenWhoAreNotIn")}
            value={settings.whole ? "whole" : "adds"}
            onChange={(value) => set({ whole: value === "whole" })}
            options={[
              { value: "whole", name: t("sources.listsEverybodyWhoIsMissing") },
              { value: "adds", name: t("sources.onlyAddsNobodyLeavesBecause") },
            ]}
            className="justify-between"
          />
        )}
        <Field
          label={t("sources.itMayLoseThisShare")}
          help={t("sources.leftEmptyTheHousesLimit")}
          inputMode="numeric"
          value={share}
          onChange={(event) => setShare(event.target.value)}
        />
        <FaultLine error={changing.error} />
        <div className="flex items-center justify-end gap-2">
          <span className="mr-auto text-[13px] text-ink-3">
            {itself && t("sources.read", { schedule: scheduleInWords(schedule) })}
          </span>
          <Button onClick={onClose}>{t("sources.close")}</Button>
          <Button type="submit" look="go" disabled={changing.isLoading}>
            {t("sources.save")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

function PlaceKind({
  settings,
  set,
  watched,
}: {
  settings: SourceSettings;
  set: (part: Partial<SourceSettings>) => void;
  watched: z.output<typeof getWatched.answer> | undefined;
}) {
  return (
    <Choice
      label={t("sources.whereItsRowsComeFrom")}
      value={settings.kind === "pasted" ? "upload" : settings.kind}
      onChange={(kind) =>
        set({
          kind,
          schedule: kind === "upload" ? null : (settings.schedule ?? { when: "changed" }),
        })
      }
      options={[
        { value: "upload", name: t("sources.fromAFileThatSomebody") },
        { value: "web", name: t("sources.fromAWebAddress") },
        ...(watched == null
          ? []
          : [{ value: "watched" as const, name: t("sources.fromAFileInThe") }]),
      ]}
      className="justify-between"
    />
  );
}

function ReadingTimes({
  settings,
  set,
  days,
  times,
  me,
  setTimes,
}: {
  settings: SourceSettings;
  set: (part: Partial<SourceSettings>) => void;
  days: number[];
  times: string;
  me: Me;
  setTimes: Dispatch<SetStateAction<string>>;
}) {
  return (
    <>
      <Choice
        label={t("sources.itIsRead")}
        value={settings.schedule?.when ?? "never"}
        onChange={(when) =>
          set({
            schedule:
              when === "never"
                ? null
                : when === "changed"
                  ? { when }
                  : { when, days: [1, 2, 3, 4, 5], times: ["07:30"] },
          })
        }
        options={[
          { value: "changed", name: t("sources.whenItChanges") },
          { value: "times", name: t("sources.onDaysAndTimes") },
          { value: "never", name: t("sources.onlyWhenSomebodyReadsIt") },
        ]}
        className="justify-between"
      />
      {settings.schedule?.when === "times" && (
        <DaysAndTimes
          days={days}
          times={times}
          zone={me.timeZone}
          onDays={(item) => set({ schedule: { when: "times", days: item, times: [] } })}
          onTimes={setTimes}
        />
      )}
      {settings.kind === "watched" && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="size-4"
            checked={settings.answersBeside}
            onChange={(event) => set({ answersBeside: event.target.checked })}
          />
          {t("sources.afterEachReadingWriteThe")}
        </label>
      )}
    </>
  );
}

function WhatFollows({
  settings,
  set,
}: {
  settings: SourceSettings;
  set: (part: Partial<SourceSettings>) => void;
}) {
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="mb-1 text-[13px] font-[560]">{t("sources.whatFollows")}</legend>
      <label className="flex items-center gap-2">
        <input
          type="radio"
          name="mode"

          checked={settings.mode === "ask"}
          onChange={() => set({ mode: "ask" })}
        />
        {t("sources.askMeTheCausesWait")}
      </label>
      <label className="flex items-center gap-2">
        <input
          type="radio"
          name="mode"

          checked={settings.mode === "itself"}
          onChange={() => set({ mode: "itself" })}
        />
        {t("sources.byItselfWhenNoGuard")}
      </label>
    </fieldset>
  );
}

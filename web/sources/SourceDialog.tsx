import { useState, type FormEvent } from "react";
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
    <Modal title={`Import settings of ${source.name}`} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <Field
          label="Name"
          value={settings.name}
          onChange={(event) => set({ name: event.target.value })}
          maxLength={80}
        />
        {settings.kind !== "posted" && (
          <Choice
            label="Where its rows come from"
            value={settings.kind === "pasted" ? "upload" : settings.kind}
            onChange={(kind) =>
              set({
                kind,
                schedule: kind === "upload" ? null : (settings.schedule ?? { when: "changed" }),
              })
            }
            options={[
              { value: "upload", name: "From a file that somebody reads" },
              { value: "web", name: "From a web address" },
              ...(watched == null
                ? []
                : [{ value: "watched" as const, name: "From a file in the watched folder" }]),
            ]}
            className="justify-between"
          />
        )}
        {settings.kind === "web" && (
          <Field
            label="Web address"
            help="A link to CSV, XLSX or ODS that needs no sign-in."
            value={settings.location}
            onChange={(event) => set({ location: event.target.value })}
            className="[&_input]:font-mono"
          />
        )}
        {settings.kind === "watched" && watched != null && (
          <Choice
            label="File"
            value={settings.location}
            onChange={(location) => set({ location })}
            options={watched.files.map(({ name }) => ({ value: name, name }))}
            className="justify-between"
          />
        )}
        {itself && (
          <>
            <Choice
              label="It is read"
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
                { value: "changed", name: "When it changes" },
                { value: "times", name: "On days and times" },
                { value: "never", name: "Only when somebody reads it" },
              ]}
              className="justify-between"
            />
            {settings.schedule?.when === "times" && (
              <DaysAndTimes
                days={days}
                times={times}
                zone={me.timeZone}
                onDays={(own) => set({ schedule: { when: "times", days: own, times: [] } })}
                onTimes={setTimes}
              />
            )}
            {settings.kind === "watched" && (
              <label className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="size-4 accent-petrol"
                  checked={settings.answersBeside}
                  onChange={(event) => set({ answersBeside: event.target.checked })}
                />
                After each reading, write the sheet beside it with what became of each row
              </label>
            )}
          </>
        )}
        {(itself || settings.kind === "posted") && (
          <fieldset className="flex flex-col gap-1">
            <legend className="mb-1 text-[13px] font-[560]">What follows</legend>
            <label className="flex items-center gap-2">
              <input
                type="radio"
                name="mode"
                className="accent-petrol"
                checked={settings.mode === "ask"}
                onChange={() => set({ mode: "ask" })}
              />
              Ask me: the causes wait in Changes
            </label>
            <label className="flex items-center gap-2">
              <input
                type="radio"
                name="mode"
                className="accent-petrol"
                checked={settings.mode === "itself"}
                onChange={() => set({ mode: "itself" })}
              />
              By itself, when no guard stands
            </label>
          </fieldset>
        )}
        {settings.kind !== "posted" && (
          <Choice
            label="Children who are not in it"
            value={settings.whole ? "whole" : "adds"}
            onChange={(value) => set({ whole: value === "whole" })}
            options={[
              { value: "whole", name: "Lists everybody: who is missing has left" },
              { value: "adds", name: "Only adds: nobody leaves because of it" },
            ]}
            className="justify-between"
          />
        )}
        <Field
          label="It may lose this share of its rows without a guard, in percent"
          help="Left empty, the house's limit holds."
          inputMode="numeric"
          value={share}
          onChange={(event) => setShare(event.target.value)}
        />
        <FaultLine error={changing.error} />
        <div className="flex items-center justify-end gap-2">
          <span className="mr-auto text-[13px] text-ink-3">
            {itself && `Read ${scheduleInWords(schedule)}.`}
          </span>
          <Button onClick={onClose}>Close</Button>
          <Button type="submit" look="go" disabled={changing.isLoading}>
            Save
          </Button>
        </div>
      </form>
    </Modal>
  );
}

import { useState } from "react";
import { Link } from "react-router";
import type { DateImport, DateImportLine } from "@amigo/contract/dateImport";
import { useImportDatesMutation } from "../data/dates";
import { useAllListsQuery } from "../data/lists";
import { t } from "../texts/t";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { FaultLine, PageHead, Panel } from "../ui/Page";
import { WideTable } from "../ui/WideTable";
import { whenWords } from "../ui/whenWords";

const STEPS = {
  new: ["+", t("dates.stepNew"), "text-leaf-ink"],
  changed: ["~", t("dates.stepChanged"), ""],
  gone: ["−", t("dates.stepGone"), "text-brick"],
  "left out": ["!", t("dates.stepLeftOut"), "text-marigold-ink"],
  same: ["", t("dates.stepSame"), "text-ink-3"],
} as const satisfies Record<DateImportLine["step"], readonly [string, string, string]>;

/** Dates from a fixture list or an iCalendar file: chosen, looked through, and made. */
export function ImportPage() {
  const [file, setFile] = useState<File>();
  const [name, setName] = useState("");
  const [list, setList] = useState("");
  const [group, setGroup] = useState("");
  const [ask, { data, error, isLoading, reset }] = useImportDatesMutation();
  const { data: all } = useAllListsQuery("");
  const open = (all?.lists ?? []).filter(({ state }) => state === "open");
  const send = (plan: string): void => {
    if (file === undefined) return;
    const form = new FormData();
    for (const [key, value] of Object.entries({ name, list, group, plan })) form.set(key, value);
    form.set("file", file);
    void ask(form);
  };
  /** What was shown is no longer what would be done. */
  const change = (set: () => void): void => {
    set();
    reset();
  };
  return (
    <>
      <PageHead title={t("dates.importDates")} line={t("dates.importLine")} />
      <Panel className="max-w-3xl p-3 md:p-4">
        <form
          className="flex flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            send("");
          }}
        >
          <label className="block">
            <span className="mb-1 block text-[13px] font-[560]">{t("dates.file")}</span>
            <input
              type="file"
              className="block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 file:mr-3 file:rounded file:border-0 file:bg-petrol-soft file:px-2.5 file:py-1 file:font-[560]"
              accept=".xlsx,.ods,.xls,.csv,.tsv,.txt,.ics"
              onChange={(event) => {
                const chosen = event.target.files?.[0];
                change(() => setFile(chosen));
                if (name === "" && chosen !== undefined)
                  setName(chosen.name.replace(/\.[^.]+$/, "").slice(0, 80));
              }}
            />
          </label>
          <Field
            label={t("dates.importName")}
            help={t("dates.importNameHelp")}
            required
            maxLength={80}
            value={name}
            onChange={(event) => change(() => setName(event.target.value))}
          />
          <div className="flex flex-wrap items-center gap-2">
            <span>{t("dates.aTeamsDatesGoTo")}</span>
            <Choice
              label={t("dates.aTeamsDatesGoTo")}
              value={group}
              options={[
                { value: "", name: t("dates.itsOnlyList") },
                ...groupsIn(open.map(({ title }) => title)).map((value) => ({
                  value,
                  name: value,
                })),
              ]}
              onChange={(value) => change(() => setGroup(value))}
            />
            <span>{t("dates.datesWithoutATeamGoTo")}</span>
            <Choice
              label={t("dates.datesWithoutATeamGoTo")}
              value={list}
              options={[
                { value: "", name: t("dates.noList") },
                ...open.map(({ id, title }) => ({ value: id, name: title })),
              ]}
              onChange={(value) => change(() => setList(value))}
            />
          </div>
          <div>
            <Button
              type="submit"
              look={data === undefined ? "go" : "plain"}
              disabled={file === undefined || name.trim() === "" || isLoading}
            >
              {t("dates.lookThrough")}
            </Button>
          </div>
          <FaultLine error={error} />
        </form>
      </Panel>
      {data !== undefined && (
        <Found found={data} isBusy={isLoading} onConfirm={() => send(data.plan)} />
      )}
    </>
  );
}

/** The ends of lists' titles behind the last comma, the most frequent first: `guardians`, `students`. */
function groupsIn(titles: readonly string[]): string[] {
  const counted = new Map<string, number>();
  for (const title of titles) {
    const end = title.includes(",") ? title.slice(title.lastIndexOf(",") + 1).trim() : "";
    if (end !== "") counted.set(end, (counted.get(end) ?? 0) + 1);
  }
  return [...counted].sort(([, a], [, b]) => b - a).map(([end]) => end);
}

function Found({
  found,
  isBusy,
  onConfirm,
}: {
  found: DateImport;
  isBusy: boolean;
  onConfirm: () => void;
}) {
  const of = (step: DateImportLine["step"]): number =>
    found.lines.filter((line) => line.step === step).length;
  const counts = { made: of("new"), changed: of("changed"), gone: of("gone") };
  const isIdle = counts.made + counts.changed + counts.gone === 0;
  return (
    <section aria-label={t("dates.whatWouldBeDone")} className="mt-4">
      <p role="status" className="mb-2">
        {found.done ? t("dates.importDone", counts) : t("dates.importWould", counts)}{" "}
        {of("left out") > 0 && t("dates.importLeftOut", { count: of("left out") })}
      </p>
      {found.isUnsure && <p className="mb-2 text-[13px]">! {t("dates.daysFirstTaken")}</p>}
      {!found.done && !isIdle && (
        <Button look="go" className="mb-3" disabled={isBusy} onClick={onConfirm}>
          {t("dates.importNow", { count: counts.made + counts.changed + counts.gone })}
        </Button>
      )}
      {found.done && (
        <p className="mb-3">
          <Link to="/dates" className="text-petrol underline underline-offset-2">
            {t("dates.toTheDates")}
          </Link>
        </p>
      )}
      <Panel>
        <WideTable label={t("dates.whatWouldBeDone")}>
          <thead>
            <tr className="text-left text-[13px] text-ink-2">
              {(["step", "title", "when", "place", "list", "note"] as const).map((column) => (
                <th key={column} scope="col" className="px-3 py-2 font-[560]">
                  {t(COLUMNS[column])}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.lines.map((line, index) => {
              const [sign, word, look] = STEPS[line.step];
              return (
                <tr key={index} className="border-t border-hair-soft align-top">
                  <td className={`px-3 py-1.5 whitespace-nowrap ${look}`}>
                    {sign} {word}
                  </td>
                  <td className="px-3 py-1.5 font-[560] wrap-anywhere">{line.title}</td>
                  <td className="px-3 py-1.5">{line.when !== null && whenWords(line.when)}</td>
                  <td className="px-3 py-1.5 wrap-anywhere">{line.place}</td>
                  <td className="px-3 py-1.5 wrap-anywhere">{line.list}</td>
                  <td className="px-3 py-1.5 text-ink-2 wrap-anywhere">
                    {line.row > 0 && line.note !== ""
                      ? t("dates.rowNote", { row: line.row, note: line.note })
                      : line.note}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </WideTable>
      </Panel>
    </section>
  );
}

const COLUMNS = {
  step: "dates.columnStep",
  title: "dates.title",
  when: "dates.columnWhen",
  place: "dates.place",
  list: "dates.list",
  note: "dates.columnNote",
} as const;

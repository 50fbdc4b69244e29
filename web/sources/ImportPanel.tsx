import { said, say } from "@amigo/language/say";
import { readingSummary } from "@amigo/core/sheet/readingSummary";
import type { DateOrder } from "@amigo/core/dates/readMoment";
import { localeOf } from "@amigo/core/text/place";
import { readMoment } from "@amigo/core/dates/readMoment";
import type { SourceLine } from "@amigo/contract/sources";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { FaultLine, Panel } from "../ui/Page";
import { Progress } from "../ui/Progress";
import { Warn } from "../ui/Signs";
import type { OpenedSheet } from "./sheetReader";
import { t } from "../texts/t";
import type { FileFault } from "@amigo/core/sheet/sheet";
import type { ShownQuestion } from "@amigo/core/sheet/columns/answerEffects";

/** The target of an import that makes a new source. */
export const NEW = "new";

/** What an import would do, what has to be said before it, and the button that does it. */
export function ImportPanel({
  file,
  opened,
  sources,
  target,
  candidates,
  unlike,
  name,
  whole,
  busy,
  error,
  importing,
  onTarget,
  onName,
  onWhole,
  onOrder,
  onImport,
  onStop,
  onCancel,
}: {
  file: string;
  opened: OpenedSheet;
  sources: readonly SourceLine[];
  /** The source that it goes to, or a new one; undefined while somebody has to choose. */
  target: string | undefined;
  /** The sources that it could continue, where that can't be told; undefined while it is looked into. */
  candidates: readonly string[] | undefined;
  /** The name of a source that it was meant for and is unlike. */
  unlike: string | undefined;
  name: string;
  whole: boolean;
  busy: boolean;
  error: unknown;
  importing: boolean;
  onTarget: (target: string) => void;
  onName: (name: string) => void;
  onWhole: (whole: boolean) => void;
  onOrder: (order: DateOrder) => void;
  onImport: () => void;
  onStop: () => void;
  onCancel: () => void;
}) {
  const { counts, unsureDates, obstacle, questions } = opened;
  const neverStored = opened.table.columns.filter(({ meaning }) => meaning === "private").length;
  const nameOf = (id: string): string => sources.find((source) => source.id === id)?.name ?? "";
  const goesOn = target !== undefined && target !== NEW;
  return (
    <Panel className="px-4 py-3.5">
      <h2 className="wrap-anywhere">{file}</h2>
      <p className="mt-1 text-[13px]">{say({ asSentence: readingSummary(counts) })}</p>
      {neverStored > 0 && (
        <p className="mt-1.5 text-[13px] text-ink-2">{t("sources.neverStored", { neverStored })}</p>
      )}
      {opened.remarks.map(say).map((remark) => (
        <p key={remark} className="mt-1.5 text-[13px] text-ink-2">
          {remark}
        </p>
      ))}
      {unlike !== undefined && (
        <p className="mt-1.5 text-[13px]">
          <Warn>
            {target === NEW
              ? t("sources.itsColumnsAreNotThose", { unlike })
              : t("sources.itsColumnsAreNotThoseOf", { unlike })}
          </Warn>
        </p>
      )}
      {opened.notes.length > 0 && goesOn && (
        <ul className="mt-1.5 mb-1 text-[13px] text-ink-2">
          {said(opened.notes).map(({ sentence, kind }) => (
            <li key={sentence} className="border-t border-hair-soft py-1">
              {kind === "gone" ? <Warn>{sentence}</Warn> : sentence}
            </li>
          ))}
        </ul>
      )}
      <div className="mt-2 flex flex-col gap-2.5">
        {unsureDates !== undefined && <WhichDate dates={unsureDates} onOrder={onOrder} />}
        {target === undefined && candidates === undefined && (
          <p role="status" className="text-[13px] text-ink-2">
            {t("sources.lookingWhichSourceItContinues")}
          </p>
        )}
        {target === undefined && candidates !== undefined && (
          <Question text={t("sources.whichSourceDoesBelongTo", { file })}>
            {candidates.map((id) => (
              <Button key={id} onClick={() => onTarget(id)}>
                {t("sources.itIsTheNext", { source: nameOf(id) })}
              </Button>
            ))}
            <Button onClick={() => onTarget(NEW)}>{t("sources.itIsANewSource")}</Button>
          </Question>
        )}
        {target !== undefined && sources.length > 0 && (
          <Choice
            label={t("sources.importInto")}
            className="w-full justify-between"
            value={target}
            onChange={onTarget}
            options={[
              ...sources.map(({ id, name: eachName }) => ({
                value: id,
                name: t("sources.into", { source: eachName }),
              })),
              { value: NEW, name: t("sources.asANewSource") },
            ]}
          />
        )}
        {target === NEW && (
          <Field
            label={t("sources.nameOfThisSource")}
            value={name}
            onChange={(event) => onName(event.target.value)}
            maxLength={80}
          />
        )}
        <Choice
          label={t("sources.childrenWhoAreNotIn")}
          className="w-full justify-between"
          value={whole ? "whole" : "adds"}
          onChange={(value) => onWhole(value === "whole")}
          options={[
            { value: "whole", name: t("sources.itListsEverybody") },
            { value: "adds", name: t("sources.itOnlyAddsPeople") },
          ]}
        />
        <p className="-mt-1.5 text-[13px] text-ink-3">
          {whole ? t("sources.whoeverIsMissingInIt") : t("sources.nobodyLeavesBecauseTheyAre")}
        </p>
        {obstacle !== undefined && (
          <p role="alert" className="rounded-md border border-brick bg-brick-soft px-3 py-2">
            <b className="text-brick">! </b>
            {say(obstacle.sentence)}
          </p>
        )}
        <FaultLine error={error} />
        {importing ? (
          <Progress
            what={t("sources.importingStudents", { students: opened.students })}
            onStop={onStop}
          />
        ) : (
          <ImportButtons
            target={target}
            obstacle={obstacle}
            busy={busy}
            unsureDates={unsureDates}
            questions={questions}
            name={name}
            onImport={onImport}
            opened={opened}
            onCancel={onCancel}
          />
        )}
        <p className="text-[13px] text-ink-3">{t("sources.noListChangesYetYou")}</p>
      </div>
    </Panel>
  );
}

function Question({ text, children }: { text: string; children: React.ReactNode }) {
  return (
    <section
      role="group"
      aria-label={text}
      className="flex flex-col gap-1.5 rounded-md border border-marigold-line bg-marigold-soft px-3 py-2"
    >
      <b className="text-[13px] font-[620] wrap-anywhere">{text}</b>
      {children}
    </section>
  );
}

/** Asks whether the day or the month comes first, with what a date of the sheet would be either way. */
function WhichDate({
  dates: { title, sample },
  onOrder,
}: {
  dates: NonNullable<OpenedSheet["unsureDates"]>;
  onOrder: (order: DateOrder) => void;
}) {
  const me = useMe();
  const firstYear = Number(/^\d{4}/.exec(me.season)?.[0] ?? 2000);
  const shown = (order: DateOrder): string => {
    const instant = readMoment(sample, { order, timeZone: "UTC", firstYear });
    return instant === undefined
      ? order
      : new Intl.DateTimeFormat(localeOf(me), {
          day: "numeric",
          month: "long",
          year: "numeric",
          timeZone: "UTC",
        }).format(new Date(instant));
  };
  return (
    <Question text={t("sources.whichDayIsInThe", { sample, title })}>
      {(["day first", "month first"] as const).map((order) => (
        <Button key={order} onClick={() => onOrder(order)}>
          {shown(order)}
        </Button>
      ))}
    </Question>
  );
}

function ImportButtons({
  target,
  obstacle,
  busy,
  unsureDates,
  questions,
  name,
  onImport,
  opened,
  onCancel,
}: {
  target: string | undefined;
  obstacle: FileFault | undefined;
  busy: boolean;
  unsureDates: { column: number; title: string; sample: string } | undefined;
  questions: ShownQuestion[];
  name: string;
  onImport: () => void;
  opened: OpenedSheet;
  onCancel: () => void;
}) {
  return (
    <>
      {target !== undefined && (
        <Button
          look="go"
          disabled={
            obstacle !== undefined ||
            busy ||
            unsureDates !== undefined ||
            questions.length > 0 ||
            (target === NEW && name.trim() === "")
          }
          onClick={onImport}
        >
          {t("sources.importStudents", { students: opened.students })}
        </Button>
      )}
      {questions.length > 0 && (
        <p className="text-[13px] text-ink-2">
          {t("sources.answerQuestionsAboutTheColumns", { questions: questions.length })}
        </p>
      )}
      <Button onClick={onCancel}>{t("sources.cancelImport")}</Button>
    </>
  );
}

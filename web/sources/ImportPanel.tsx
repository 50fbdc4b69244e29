import { said, say } from "@amigo/language/say";
import { readingSummary } from "@amigo/core/sheet/readingSummary";
import type { DateOrder } from "@amigo/core/dates/readMoment";
import type { SourceLine } from "@amigo/contract/sources";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { FaultLine, Panel } from "../ui/Page";
import { Progress } from "../ui/Progress";
import { Warn } from "../ui/Signs";
import type { OpenedSheet } from "./sheetReader";
import { t } from "../texts/sources";
import type { FileFault } from "@amigo/core/sheet/sheet";
import type { ShownQuestion } from "@amigo/core/sheet/columns/answerEffects";
import { NEW, WhichSource, WhichDate } from "./ImportQuestions";

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
  const { unsureDates, obstacle, questions } = opened;
  return (
    <Panel className="px-4 py-3.5">
      <h2 className="wrap-anywhere">{file}</h2>
      <Remarks opened={opened} target={target} unlike={unlike} />
      <div className="mt-2 flex flex-col gap-2.5">
        {unsureDates !== undefined && <WhichDate dates={unsureDates} onOrder={onOrder} />}
        <WhichSource
          file={file}
          sources={sources}
          target={target}
          candidates={candidates}
          name={name}
          onTarget={onTarget}
          onName={onName}
        />
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

/** What is said of a sheet before it is imported: what it holds, and what is otherwise than last time. */
function Remarks({
  opened,
  target,
  unlike,
}: {
  opened: OpenedSheet;
  target: string | undefined;
  unlike: string | undefined;
}) {
  const neverStored = opened.table.columns.filter(({ meaning }) => meaning === "private").length;
  const goesOn = target !== undefined && target !== NEW;
  return (
    <>
      <p className="mt-1 text-[13px]">{say({ asSentence: readingSummary(opened.counts) })}</p>
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
    </>
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

import { DraftHead } from "./DraftHead";
import { useDraft } from "./useDraft";
import { useImport } from "./useImport";
import type { OpenedSheet } from "./sheetReader";
import { useMemo, useState } from "react";
import { say } from "@amigo/language/say";
import { meaningOf } from "@amigo/core/sheet/meanings/allMeanings";
import type { SourceLine } from "@amigo/contract/sources";
import { Panel } from "../ui/Page";
import { FaultPanel } from "./FaultPanel";
import { MeaningHead } from "./MeaningHead";
import { ImportPanel } from "./ImportPanel";
import { LayoutPanel } from "./LayoutPanel";
import { QuestionPanel } from "./QuestionPanel";
import { SheetView } from "./SheetView";
import { useFaultSteps } from "./useFaultSteps";
import { whoInRow } from "./whoInRow";
import type { Dropped } from "./dropped";
import { ReadingProgress } from "./ReadingProgress";
import { RefusedFile } from "./RefusedFile";

/** A sheet that was dropped, as Amigo understands it, before it is read: meanings can be changed, faults are marked. */
export function Draft({
  dropped,
  sources,
  into,
  onDone,
}: {
  dropped: Dropped;
  sources: readonly SourceLine[];
  into: string | undefined;
  onDone: (told?: string) => void;
}) {
  const draft = useDraft(dropped, sources, into);
  const { opened, fault } = draft;
  if (fault !== undefined && opened === undefined)
    return <RefusedFile dropped={dropped} sentence={say(fault.sentence)} onDone={() => onDone()} />;
  if (opened === undefined)
    return <ReadingProgress dropped={dropped} stop={draft.stop} onDone={onDone} />;
  return (
    <OpenedDraft
      dropped={dropped}
      sources={sources}
      draft={draft}
      opened={opened}
      onDone={onDone}
    />
  );
}

function OpenedDraft({
  dropped,
  sources,
  draft,
  opened,
  onDone,
}: {
  dropped: Dropped;
  sources: readonly SourceLine[];
  draft: ReturnType<typeof useDraft>;
  opened: OpenedSheet;
  onDone: (told?: string) => void;
}) {
  const { ask, busy, fault, faults, target } = draft;
  const { table, plan, questions } = opened;
  const importing = useImport(dropped, onDone);
  const [name, setName] = useState(nameFrom(dropped.file.name));
  const [whole, setWhole] = useState<boolean>();
  const [shown, setShown] = useState(0);
  const [severalChildren, setSeveral] = useState<boolean>();
  const { chosen, step, choose } = useFaultSteps(faults);
  const sheet = opened.read[chosen?.sheet ?? shown] ?? opened.read[0];
  const rows = sheet?.rows ?? [];
  const aside = useMemo(() => new Set(sheet?.aside ?? []), [sheet]);
  const several =
    severalChildren ??
    table.columns.some((one) => meaningOf(one.meaning).ofChild === true && one.slot > 0);
  const [question] = questions;
  const chooseSheet = (wanted: string): void => {
    const at = opened.read.findIndex((candidate) => candidate.name === wanted);
    if (opened.read.length > 1 && at >= 0) setShown(at);
    else ask({ ask: "sheet", sheet: wanted });
  };
  return (
    <div className="grid gap-3.5 lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(0,1fr)_300px]">
      <Panel className="flex min-h-[320px] flex-col overflow-hidden">
        <DraftHead
          opened={opened}
          faults={faults}
          sheet={sheet?.name ?? table.sheet}
          busy={busy}
          onAll={() => ask({ ask: "all" })}
          onSheet={chooseSheet}
        />
        {fault !== undefined && (
          <p role="alert" className="border-b border-hair bg-brick-soft px-3.5 py-2">
            <b className="text-brick">! </b>
            {say(fault.sentence)}
          </p>
        )}
        <SheetView
          key={sheet?.name}
          rows={(row) => rows[row]}
          count={rows.length}
          columns={table.columns.length}
          headerRow={sheet?.headerRow ?? table.headerRow}
          aside={aside}
          marks={faults.filter(({ sheet: of }) => opened.read[of] === sheet)}
          chosen={chosen}
          onChoose={choose}
          meaning={(at) => {
            const column = table.columns[at];
            return column === undefined ? null : (
              <MeaningHead
                column={column}
                title={column.title}
                why={column.why}
                several={several}
                onChange={(meaning, slot) =>
                  ask({ ask: "say", said: { columns: [{ column: at, meaning, slot }] } })
                }
              />
            );
          }}
        />
      </Panel>
      <FaultPanel
        faults={faults}
        chosen={chosen}
        who={(row) => whoInRow(table.columns, rows[row - 1])}
        onStep={step}
        onChoose={choose}
      >
        {question !== undefined && (
          <QuestionPanel
            key={say(question.about)}
            question={question}
            more={questions.length - 1}
            busy={busy}
            onAnswer={(columns) => ask({ ask: "say", said: { columns } })}
          />
        )}
        <ImportPanel
          file={dropped.file.name}
          opened={opened}
          sources={sources}
          target={target}
          candidates={draft.candidates}
          unlike={draft.unlike}
          name={name}
          whole={whole ?? sources.find(({ id }) => id === target)?.whole ?? opened.whole}
          busy={draft.isSettling}
          error={importing.error}
          importing={importing.isLoading}
          onTarget={draft.setTarget}
          onName={setName}
          onWhole={setWhole}
          onOrder={(order) => ask({ ask: "say", said: { order } })}
          onImport={() => importing.run({ plan, target, name, whole })}
          onStop={importing.stop}
          onCancel={() => onDone()}
        />
        <LayoutPanel
          opened={opened}
          several={several}
          onSeveral={setSeveral}
          onSay={(said) => ask({ ask: "say", said })}
        />
      </FaultPanel>
    </div>
  );
}

/** `autumn-roster_v2.xlsx` as people would call it: `Autumn roster v2`. */
function nameFrom(file: string): string {
  const words = file
    .replace(/\.[a-z0-9]{1,5}$/i, "")
    .replace(/[-_]+/g, " ")
    .trim();
  return (words.charAt(0).toUpperCase() + words.slice(1)).slice(0, 80);
}

import { useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { say } from "@amigo/language/say";
import { meaningOf } from "@amigo/core/sheet/meanings/allMeanings";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { SourceLine } from "@amigo/contract/sources";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { FaultPanel } from "./FaultPanel";
import { MeaningHead } from "./MeaningHead";
import { ImportPanel, NEW } from "./ImportPanel";
import { LayoutPanel } from "./LayoutPanel";
import { useMe } from "../data/me";
import {
  useKnownWordsQuery,
  useMatchMutation,
  useReadIntoMutation,
  useSourceQuery,
} from "../data/sources";
import { QuestionPanel } from "./QuestionPanel";
import { SheetView } from "./SheetView";
import { needsSomebody, useFaultSteps } from "./useFaultSteps";
import { useSheetReader } from "./useSheetReader";
import { whoInRow } from "./whoInRow";
import { t } from "../texts/t";
import { Rich } from "../texts/Rich";
import type { Dropped } from "./dropped";
import { ReadingProgress } from "./ReadingProgress";
import { RefusedFile } from "./RefusedFile";

/** In the choice of sheets: all that look alike, one for each class. */
const ALL = "\u0000all";

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
  const navigate = useNavigate();
  const { ask, stop, busy, opened, fault } = useSheetReader();
  const alone = dropped.kind === "web" || dropped.kind === "watched" || sources.length === 0;
  const [target, setTarget] = useState(into ?? (alone ? NEW : undefined));
  const [candidates, setCandidates] = useState<readonly string[]>();
  const [whole, setWhole] = useState<boolean>();
  const [match] = useMatchMutation();
  const matching = useRef(false);
  const { timeZone, season } = useMe();
  const [unlike, setUnlike] = useState<string>();
  const [name, setName] = useState(nameFrom(dropped.file.name));
  const goesOn = target !== undefined && target !== NEW;
  const known = useSourceQuery(target ?? NEW, { skip: !goesOn });
  const [read, reading] = useReadIntoMutation();
  const asked = useRef<{ abort: () => void }>(undefined);
  const [shown, setShown] = useState(0);
  const [severalChildren, setSeveral] = useState<boolean>();
  const last = known.currentData?.plan ?? undefined;
  const words = useKnownWordsQuery();
  const waiting =
    (goesOn && known.currentData === undefined) || (words.isLoading && words.data === undefined);
  // Once: what somebody has answered must not go because another import brought new words.
  const [houseWords, setHouseWords] = useState(words.data);
  if (houseWords === undefined && words.data !== undefined) setHouseWords(words.data);
  const choosable = sources.find(({ id }) => id === target)?.name;
  if (opened?.strange === true && goesOn && unlike === undefined && choosable !== undefined)
    setUnlike(choosable);
  // Which source it continues is told once, by every source's last sheet; after that the person's own choice stands.
  useEffect(() => {
    if (opened === undefined || target !== undefined || matching.current) return;
    matching.current = true;
    void match({
      columns: opened.plan.columns,
      others: opened.read.slice(1).map(({ name: eachName }) => eachName),
      names: opened.names,
      oneIn: opened.oneIn,
    }).then(({ data }) => {
      if (data?.is === "the next of") setTarget(data.source);
      else if (data?.is === "new") setTarget(NEW);
      else setCandidates(data?.sources ?? sources.map(({ id }) => id));
    });
  }, [match, opened, sources, target]);
  useEffect(() => {
    if (waiting) return undefined;
    let gone = false;
    void dropped.file.arrayBuffer().then((bytes) => {
      if (!gone)
        ask({
          ask: "open",
          bytes,
          last,
          file: dropped.file.name,
          context: { timeZone, season },
          known: houseWords,
        });
    });
    return () => {
      gone = true;
    };
  }, [ask, dropped.file, last, waiting, timeZone, season, houseWords]);
  const faults = useMemo(
    () =>
      (opened?.faults ?? []).map((faultInSheet) => ({
        ...faultInSheet,
        sentence: say(faultInSheet.sentence),
        why: say(faultInSheet.why),
        sheet: Math.max(
          opened?.read.findIndex(({ name: of }) => of === faultInSheet.sheet) ?? 0,
          0,
        ),
        proposal: faultInSheet.proposal ?? null,
      })),
    [opened],
  );
  const { chosen, step, choose } = useFaultSteps(faults);
  const sheet = opened?.read[chosen?.sheet ?? shown] ?? opened?.read[0];
  const aside = useMemo(() => new Set(sheet?.aside ?? []), [sheet]);

  if (fault !== undefined && opened === undefined)
    return <RefusedFile dropped={dropped} sentence={say(fault.sentence)} onDone={() => onDone()} />;
  if (opened === undefined)
    return <ReadingProgress dropped={dropped} stop={stop} onDone={onDone} />;

  const { table, alike } = opened;
  const rows = sheet?.rows ?? [];
  const { plan, questions } = opened;
  const several =
    severalChildren ??
    table.columns.some((one) => meaningOf(one.meaning).ofChild === true && one.slot > 0);
  const [question] = questions;
  const change = (column: number, meaning: MeaningId, slot: number): void =>
    ask({ ask: "say", said: { columns: [{ column, meaning, slot }] } });
  const chooseSheet = (name: string): void => {
    const at = opened.read.findIndex((candidate) => candidate.name === name);
    if (name === ALL) ask({ ask: "all" });
    else if (opened.read.length > 1 && at >= 0) setShown(at);
    else ask({ ask: "sheet", sheet: name });
  };
  const { rows: rowCount, aside: setAside } = opened.counts;
  const toDecide = faults.filter(needsSomebody).length;
  const confirm = async (): Promise<void> => {
    const form = new FormData();
    form.set("file", dropped.file);
    form.set("plan", JSON.stringify(plan));
    form.set("whole", String(whole ?? ""));
    form.set("written", dropped.writtenAt ?? new Date(dropped.file.lastModified).toISOString());
    if (target === NEW) {
      form.set("name", name);
      form.set("kind", dropped.kind ?? "upload");
      form.set("location", dropped.location ?? "");
    }
    const request = read({ source: target === NEW ? undefined : target, form });
    asked.current = request;
    const answer = await request;
    if (answer.data === undefined) return;
    const { round, source, summary } = answer.data;
    onDone(round === null ? t("sources.everyListAlreadyMatchesIt", { summary }) : undefined);
    void navigate(round === null ? `/sources/${source}` : "/changes", {
      state: { imported: summary },
    });
  };
  return (
    <div className="grid gap-3.5 lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(0,1fr)_300px]">
      <Panel className="flex min-h-[320px] flex-col overflow-hidden">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair px-3.5 py-1.5 text-[13px] text-ink-2">
          <span>
            <Rich
              id="sources.count"
              rowCount={<b className="font-[650] text-ink">{rowCount}</b>}
              rowCount2={rowCount}
              setAside={setAside}
            />
          </span>
          <span>
            <Rich
              id="sources.count2"
              students={<b className="font-[650] text-ink">{opened.students}</b>}
              students2={opened.students}
              guardians={<b className="font-[650] text-ink">{opened.guardians}</b>}
              guardians2={opened.guardians}
            />
          </span>
          <span>
            {toDecide > 0 ? (
              <Warn>{t("sources.cellsToLookAt", { toDecide })}</Warn>
            ) : (
              t("sources.noCellToLookAt")
            )}
            {faults.length > toDecide &&
              t("sources.readByItself", { count: faults.length - toDecide })}
          </span>
          <span>
            {table.headerRow < 0
              ? t("sources.noTitles")
              : t("sources.titlesInRow", { row: table.headerRow + 1 })}
          </span>
          <span className="ml-auto flex items-center gap-2">
            {busy && <span role="status">{t("sources.lookingAgain")}</span>}
            {opened.sheets.length > 1 && (
              <>
                {opened.read.length > 1 ? (
                  <span>{t("sources.allSheetsAreReadOne", { read: opened.read.length })}</span>
                ) : (
                  alike.length > 1 && (
                    <Button
                      className="min-h-[26px]! px-2! text-[13px]"
                      onClick={() => chooseSheet(ALL)}
                    >
                      {t("sources.readAllAlike", { alike: alike.length })}
                    </Button>
                  )
                )}
                <Choice
                  small
                  label={t("sources.sheetOfThisFile")}
                  value={sheet?.name ?? table.sheet}
                  onChange={chooseSheet}
                  options={opened.sheets.map((eachSheet) => ({
                    value: eachSheet.name,
                    name: t("sources.sheetHidden", {
                      name: eachSheet.name,
                      hidden: String(eachSheet.hidden),
                    }),
                  }))}
                />
              </>
            )}
          </span>
        </div>
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
          meaning={(column) => {
            const foundColumn = table.columns[column];
            return foundColumn === undefined ? null : (
              <MeaningHead
                column={foundColumn}
                title={foundColumn.title}
                why={foundColumn.why}
                several={several}
                onChange={(meaning, slot) => change(column, meaning, slot)}
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
          candidates={candidates}
          unlike={unlike}
          name={name}
          whole={whole ?? sources.find(({ id }) => id === target)?.whole ?? opened.whole}
          // Until it is compared with the last import of its source, what the panel says may still change.
          busy={busy || waiting}
          error={reading.error}
          importing={reading.isLoading}
          onTarget={setTarget}
          onName={setName}
          onWhole={setWhole}
          onOrder={(order) => ask({ ask: "say", said: { order } })}
          onImport={() => void confirm()}
          onStop={() => asked.current?.abort()}
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

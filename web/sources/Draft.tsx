import { useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { counted } from "@amigo/core/text/sentence";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { ReadingPlan, Table } from "@amigo/core/sheet/readTable";
import type { SourceLine } from "@amigo/contract/sources";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { FaultLine, Panel } from "../ui/Page";
import { Progress } from "../ui/Progress";
import { Warn } from "../ui/Signs";
import { FaultPanel } from "./FaultPanel";
import { MeaningHead } from "./MeaningHead";
import { useReadIntoMutation, useSourceQuery } from "../data/sources";
import { SheetView } from "./SheetView";
import type { Dropped } from "./SourcesPage";
import { needsSomebody, useFaultSteps } from "./useFaultSteps";
import { useSheetReader } from "./useSheetReader";
import { whoInRow } from "./whoInRow";

const NEW = "new";
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
  const [target, setTarget] = useState(into ?? NEW);
  const [unlike, setUnlike] = useState<string>();
  const [name, setName] = useState(nameFrom(dropped.file.name));
  const known = useSourceQuery(target, { skip: target === NEW });
  const [read, reading] = useReadIntoMutation();
  const asked = useRef<{ abort: () => void }>(undefined);
  const [shown, setShown] = useState(0);
  const last = known.currentData?.plan ?? undefined;
  const waiting = target !== NEW && known.currentData === undefined;
  const choosable = sources.find(({ id }) => id === target)?.name;
  // Only the first look decides this; after it, the person's own choice stands.
  if (
    opened?.strange === true &&
    target === into &&
    unlike === undefined &&
    choosable !== undefined
  ) {
    setUnlike(choosable);
    setTarget(NEW);
  }
  useEffect(() => {
    if (waiting) return undefined;
    let gone = false;
    void dropped.file.arrayBuffer().then((bytes) => {
      if (!gone) ask({ ask: "open", bytes, last });
    });
    return () => {
      gone = true;
    };
  }, [ask, dropped.file, last, waiting]);
  const faults = useMemo(
    () =>
      (opened?.faults ?? []).map((own) => ({
        ...own,
        sheet: Math.max(opened?.read.findIndex(({ name: of }) => of === own.sheet) ?? 0, 0),
        proposal: own.proposal ?? null,
      })),
    [opened],
  );
  const { chosen, step, choose } = useFaultSteps(faults);
  const sheet = opened?.read[chosen?.sheet ?? shown] ?? opened?.read[0];
  const aside = useMemo(() => new Set(sheet?.aside ?? []), [sheet]);

  if (fault !== undefined && opened === undefined)
    return <Refused dropped={dropped} sentence={fault.sentence} onDone={() => onDone()} />;
  if (opened === undefined)
    return (
      <Panel className="flex flex-1 flex-col items-center justify-center gap-3">
        <p role="status">Reading {dropped.file.name} …</p>
        <div className="h-1 w-48 overflow-hidden rounded bg-hair">
          <div className="h-full w-1/2 animate-pulse bg-petrol" />
        </div>
        <Button
          onClick={() => {
            stop();
            onDone();
          }}
        >
          Stop
        </Button>
      </Panel>
    );

  const { table, alike } = opened;
  const rows = sheet?.rows ?? [];
  const others = opened.read.slice(1).map(({ name: own }) => own);
  const plan: ReadingPlan = { ...planOf(table), ...(others.length === 0 ? {} : { others }) };
  const change = (column: number, meaning: MeaningId, slot: number): void =>
    ask({ ask: "plan", plan: withMeaning(plan, column, meaning, slot) });
  const chooseSheet = (name: string): void => {
    const at = opened.read.findIndex((own) => own.name === name);
    if (name === ALL) ask({ ask: "all", last });
    else if (opened.read.length > 1 && at >= 0) setShown(at);
    else ask({ ask: "sheet", sheet: name, last });
  };
  const rowCount = opened.read.length > 1 ? opened.rows : table.rows.length;
  const setAside = table.aside.filter(({ why }) => why !== "blank").length;
  const toDecide = faults.filter(needsSomebody).length;
  const confirm = async (): Promise<void> => {
    const form = new FormData();
    form.set("file", dropped.file);
    form.set("plan", JSON.stringify(plan));
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
    const { round, same, source } = answer.data;
    onDone(
      round !== null
        ? undefined
        : same
          ? "This very file was read before. Nothing was kept twice, and nothing changes."
          : "The sheet was read. It says what the lists already hold, so nothing changes.",
    );
    void navigate(round === null ? `/sources/${source}` : "/changes");
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_300px] gap-3.5">
      <Panel className="flex min-h-[320px] flex-col overflow-hidden">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair px-3.5 py-1.5 text-[13px] text-ink-2">
          <span>
            <b className="font-[650] text-ink">{rowCount}</b> {rowCount === 1 ? "row" : "rows"}
            {setAside > 0 && `, ${setAside} set aside`}
          </span>
          <span>
            <b className="font-[650] text-ink">{opened.students}</b>{" "}
            {opened.students === 1 ? "student" : "students"},{" "}
            <b className="font-[650] text-ink">{opened.guardians}</b>{" "}
            {opened.guardians === 1 ? "guardian" : "guardians"}
          </span>
          <span>
            {toDecide > 0 ? (
              <Warn>{counted(toDecide, "cell")} to look at</Warn>
            ) : (
              "no cell to look at"
            )}
            {faults.length > toDecide && `, ${faults.length - toDecide} mended`}
          </span>
          <span>titles in row {table.headerRow + 1}</span>
          <span className="ml-auto flex items-center gap-2">
            {busy && <span role="status">Looking again …</span>}
            {opened.sheets.length > 1 && (
              <>
                {opened.read.length > 1 ? (
                  <span>All {opened.read.length} sheets are read, one for each class</span>
                ) : (
                  alike.length > 1 && (
                    <Button
                      className="min-h-[26px]! px-2! text-[13px]"
                      onClick={() => chooseSheet(ALL)}
                    >
                      Read all {alike.length} alike
                    </Button>
                  )
                )}
                <Choice
                  small
                  label="Sheet of this file"
                  value={sheet?.name ?? table.sheet}
                  onChange={chooseSheet}
                  options={opened.sheets.map((own) => ({
                    value: own.name,
                    name: `Sheet ${own.name}${own.hidden ? " (hidden)" : ""}`,
                  }))}
                />
              </>
            )}
          </span>
        </div>
        {fault !== undefined && (
          <p role="alert" className="border-b border-hair bg-brick-soft px-3.5 py-2">
            <b className="text-brick">! </b>
            {fault.sentence}
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
            const own = table.columns[column];
            return own === undefined ? null : (
              <MeaningHead
                column={own}
                title={own.title}
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
        <Panel className="px-4 py-3.5">
          <h2 className="wrap-anywhere">{dropped.file.name}</h2>
          {unlike !== undefined && (
            <p className="mt-1.5 text-[13px]">
              <Warn>
                {target === NEW
                  ? `Its columns are not those of ${unlike}, so it is taken for a source of its own.`
                  : `Its columns are not those of ${unlike}. Read into it, it takes the place of that sheet.`}
              </Warn>
            </p>
          )}
          {opened.notes.length > 0 && target !== NEW && (
            <ul className="mt-1.5 mb-1 text-[13px] text-ink-2">
              {opened.notes.map(({ sentence, kind }) => (
                <li key={sentence} className="border-t border-hair-soft py-1">
                  {kind === "gone" ? <Warn>{sentence}</Warn> : sentence}
                </li>
              ))}
            </ul>
          )}
          <div className="mt-2 flex flex-col gap-2.5">
            {sources.length > 0 && (
              <Choice
                label="Read into"
                className="w-full justify-between"
                value={target}
                onChange={setTarget}
                options={[
                  ...sources.map(({ id, name: own }) => ({ value: id, name: `Into ${own}` })),
                  { value: NEW, name: "As a new source" },
                ]}
              />
            )}
            {target === NEW && (
              <Field
                label="Name of this source"
                value={name}
                onChange={(event) => setName(event.target.value)}
                maxLength={80}
              />
            )}
            {opened.obstacle !== undefined && (
              <p role="alert" className="rounded-md border border-brick bg-brick-soft px-3 py-2">
                <b className="text-brick">! </b>
                {opened.obstacle.sentence}
              </p>
            )}
            <FaultLine error={reading.error} />
            {reading.isLoading ? (
              <Progress
                what={`Reading ${counted(opened.students, "student")}`}
                onStop={() => asked.current?.abort()}
              />
            ) : (
              <>
                <Button
                  look="go"
                  disabled={
                    opened.obstacle !== undefined || busy || (target === NEW && name.trim() === "")
                  }
                  onClick={() => void confirm()}
                >
                  Read {counted(opened.students, "student")}
                </Button>
                <Button onClick={() => onDone()}>Leave it unread</Button>
              </>
            )}
            <p className="text-[13px] text-ink-3">
              No list changes yet. What follows stands in Changes, to be decided.
            </p>
          </div>
        </Panel>
      </FaultPanel>
    </div>
  );
}

function Refused({
  dropped,
  sentence,
  onDone,
}: {
  dropped: Dropped;
  sentence: string;
  onDone: () => void;
}) {
  return (
    <Panel className="flex flex-1 items-center justify-center">
      <div className="flex max-w-lg flex-col items-start gap-3 p-8">
        <h2 className="wrap-anywhere">{dropped.file.name} was not read</h2>
        <p role="alert" className="rounded-md border border-brick bg-brick-soft px-3 py-2">
          <b className="text-brick">! </b>
          {sentence}
        </p>
        <p className="text-ink-2">Nothing of it was kept. You can drop another file at any time.</p>
        <Button onClick={() => onDone()}>Close</Button>
      </div>
    </Panel>
  );
}

function planOf(table: Table): ReadingPlan {
  return {
    sheet: table.sheet,
    headerRow: table.headerRow,
    columns: table.columns.map(({ title, meaning, slot }) => ({ title, meaning, slot })),
  };
}

/** Gives a column another meaning; a column that had it before is no longer read. */
function withMeaning(
  plan: ReadingPlan,
  column: number,
  meaning: MeaningId,
  slot: number,
): ReadingPlan {
  return {
    ...plan,
    columns: plan.columns.map((own, index) =>
      index === column
        ? { ...own, meaning, slot }
        : meaning !== "unread" && own.meaning === meaning && own.slot === slot
          ? { ...own, meaning: "unread", slot: 0 }
          : own,
    ),
  };
}

/** `autumn-roster_v2.xlsx` as people would call it: `Autumn roster v2`. */
function nameFrom(file: string): string {
  const words = file
    .replace(/\.[a-z0-9]{1,5}$/i, "")
    .replace(/[-_]+/g, " ")
    .trim();
  return (words.charAt(0).toUpperCase() + words.slice(1)).slice(0, 80);
}

import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { SourceLine } from "@amigo/contract/sources";
import { Button } from "../ui/Button";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { FaultPanel } from "./FaultPanel";
import { Fix } from "./Fix";
import { MeaningHead } from "./MeaningHead";
import {
  useChangeMeaningsMutation,
  useLazyReadingRowsQuery,
  useReadingQuery,
} from "../data/sources";
import { SheetView } from "./SheetView";
import { SourcePanel } from "./SourcePanel";
import { useFaultSteps } from "./useFaultSteps";
import { whoInRow } from "./whoInRow";
import { t } from "../texts/sources";
import type { ReadingPlan } from "@amigo/core/sheet/table";
import type { ShownFault } from "./shownFault";
import { Samples } from "./Samples";
import { withMeaning } from "./withMeaning";
import { ReadingHead } from "./ReadingHead";

const AT_ONCE = 500;

/** The last reading of a source, shown as the sheet it was; its rows are fetched as they come into view, its faulty cells can be put right. */
export function StoredReading({
  source,
  reading,
  onTake,
}: {
  source: SourceLine;
  reading: string;
  onTake: (file: File) => void;
}) {
  const { data, error } = useReadingQuery(reading);
  const [chosenSheet, setSheet] = useState(0);
  const faults = useMemo(() => data?.faults ?? [], [data]);
  const { chosen: fault, step, choose } = useFaultSteps(faults);
  const [picked, setPicked] = useState<ShownFault>();
  const [meanings, setMeanings] = useState<ReadingPlan>();
  const chosen = picked ?? fault;
  const sheet = chosen?.sheet ?? chosenSheet;
  const rows = useRows(reading, sheet);
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("sources.theReading")} />;
  const { plan, reading: line } = data;
  const shown = data.read[sheet] ??
    data.read[0] ?? { name: plan.sheet, headerRow: plan.headerRow, totalRows: 0, aside: [] };
  const editable = data.newest && source.kind !== "form" && source.kind !== "posted";
  const shownPlan = meanings ?? plan;
  const pick = (row: number, column: number): void => {
    const marked = faults.find(
      (candidate) =>
        candidate.sheet === sheet && candidate.row === row && candidate.column === column,
    );
    if (marked !== undefined) choose(marked);
    setPicked(
      marked === undefined
        ? {
            sheet,
            row,
            column,
            answer: "clean",
            proposal: null,
            written: rows(row - 1)?.[column] ?? "",
            fault: "picked",
            sentence: t("sources.correctThisCell"),
            why: t("sources.amigoSeesNoFaultHere"),
          }
        : undefined,
    );
  };
  return (
    <div className="grid gap-3.5 lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(0,1fr)_300px]">
      <Panel className="flex min-h-[320px] flex-col overflow-hidden">
        <ReadingHead page={data} sheet={sheet} onSheet={setSheet} />
        <SheetView
          key={shown.name}
          rows={rows}
          count={shown.totalRows}
          columns={plan.columns.length}
          headerRow={shown.headerRow}
          aside={new Set(shown.aside)}
          marks={faults.filter((fault) => fault.sheet === sheet)}
          chosen={chosen}
          onChoose={(mark) => pick(mark.row, mark.column)}
          onPick={data.newest ? pick : undefined}
          meaning={(column) => {
            const foundColumn = shownPlan.columns[column];
            return foundColumn === undefined ? null : (
              <MeaningHead
                column={{ ...foundColumn, confidence: 1 }}
                title={foundColumn.title}
                onChange={
                  editable
                    ? (meaning, slot) => setMeanings(withMeaning(shownPlan, column, meaning, slot))
                    : undefined
                }
              />
            );
          }}
        />
      </Panel>
      <FaultPanel
        faults={faults}
        chosen={chosen}
        who={(row) => whoInRow(plan.columns, rows(row - 1))}
        onStep={(by) => {
          setPicked(undefined);
          step(by);
        }}
        onChoose={(item) => {
          setPicked(undefined);
          choose(item);
        }}
        fix={
          data.newest
            ? (fault) => (
                <Fix
                  key={`${fault.sheet} ${fault.row} ${fault.column} ${fault.correction ?? ""}`}
                  reading={reading}
                  fault={fault}
                  isAddress={plan.columns[fault.column]?.meaning.endsWith(".address") === true}
                  onDone={() => (picked === undefined ? step(1) : setPicked(undefined))}
                />
              )
            : undefined
        }
      >
        {meanings !== undefined && (
          <NewMeanings source={source} plan={meanings} onDone={() => setMeanings(undefined)} />
        )}
        <SourcePanel source={source} line={line} />
        <Panel className="px-4 py-3.5 empty:hidden">
          <Samples onTake={onTake} />
        </Panel>
      </FaultPanel>
    </div>
  );
}

/** Imports the file that is kept once more, with the meanings that were just changed above its columns. */
function NewMeanings({
  source,
  plan,
  onDone,
}: {
  source: SourceLine;
  plan: ReadingPlan;
  onDone: () => void;
}) {
  const navigate = useNavigate();
  const [change, changing] = useChangeMeaningsMutation();
  const submit = async (): Promise<void> => {
    const { data } = await change({ id: source.id, plan });
    if (data === undefined) return;
    onDone();
    if (data.round !== null) void navigate("/changes", { state: { imported: data.summary } });
  };
  return (
    <Panel className="px-4 py-3.5">
      <h2>{t("sources.otherColumnMeanings")}</h2>
      <p className="mt-1 text-[13px] text-ink-2">{t("sources.theFileIsImportedAgain")}</p>
      <FaultLine error={changing.error} />
      <div className="mt-2.5 flex flex-wrap gap-2">
        <Button look="go" disabled={changing.isLoading} onClick={() => void submit()}>
          {changing.isLoading ? t("sources.importing") : t("sources.importAgain")}
        </Button>
        <Button onClick={onDone}>{t("sources.undo")}</Button>
      </div>
    </Panel>
  );
}

/** The rows of a reading, fetched as they come into view. */
function useRows(reading: string, sheet: number): (row: number) => readonly string[] | undefined {
  const [fetchRows] = useLazyReadingRowsQuery();
  const asked = useRef(new Set<string>());
  const [rows, setRows] = useState<ReadonlyMap<string, readonly string[]>>(new Map());
  const ask = useCallback(
    (from: number) => {
      const key = `${reading} ${sheet} ${from}`;
      if (asked.current.has(key)) return;
      asked.current.add(key);
      void fetchRows({ id: reading, sheet, from }).then((answer) => {
        const fetched = answer.data;
        if (fetched === undefined) {
          asked.current.delete(key);
          return;
        }
        setRows(
          (before) =>
            new Map([
              ...before,
              ...fetched.map(({ row, cells }) => [`${reading} ${sheet} ${row}`, cells] as const),
            ]),
        );
      });
    },
    [fetchRows, reading, sheet],
  );
  useEffect(() => ask(1), [ask]);
  return useCallback(
    (index: number) => {
      const from = Math.floor(index / AT_ONCE) * AT_ONCE + 1;
      if (!asked.current.has(`${reading} ${sheet} ${from}`)) queueMicrotask(() => ask(from));
      return rows.get(`${reading} ${sheet} ${index + 1}`);
    },
    [ask, reading, sheet, rows],
  );
}

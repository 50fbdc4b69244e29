import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useMe } from "../data/me";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { FaultPanel } from "./FaultPanel";
import { MeaningHead } from "./MeaningHead";
import { useLazyReadingRowsQuery, useReadingQuery } from "../data/sources";
import { SheetView } from "./SheetView";
import { Samples } from "./SourcesPage";
import { useFaultSteps } from "./useFaultSteps";
import { whoInRow } from "./whoInRow";

const AT_ONCE = 500;

/** The last reading of a source, shown as the sheet it was; its rows are fetched as they come into view. */
export function StoredReading({ reading, onTake }: { reading: string; onTake: (file: File) => void }) {
  const me = useMe();
  const { data, error } = useReadingQuery(reading);
  const [fetchRows] = useLazyReadingRowsQuery();
  const asked = useRef(new Set<string>());
  const [rows, setRows] = useState<ReadonlyMap<number, readonly string[]>>(new Map());
  const ask = useCallback((from: number) => {
    const key = `${reading} ${from}`;
    if (asked.current.has(key)) return;
    asked.current.add(key);
    void fetchRows({ id: reading, from }).then((answer) => {
      const fetched = answer.data;
      if (fetched === undefined) { asked.current.delete(key); return; }
      setRows((before) => new Map([...before, ...fetched.map(({ row, cells }) => [row, cells] as const)]));
    });
  }, [fetchRows, reading]);
  useEffect(() => { setRows(new Map()); asked.current.clear(); ask(1); }, [ask]);
  const faults = useMemo(() => data?.faults ?? [], [data]);
  const { chosen, step, choose } = useFaultSteps(faults);
  const rowAt = useCallback((index: number) => {
    const from = Math.floor(index / AT_ONCE) * AT_ONCE + 1;
    if (!asked.current.has(`${reading} ${from}`)) queueMicrotask(() => ask(from));
    return rows.get(index + 1);
  }, [ask, reading, rows]);
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what="the reading" />;
  const { plan, reading: line } = data;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_300px] gap-3.5">
      <Panel className="flex min-h-[320px] flex-col overflow-hidden">
        <div className="flex flex-wrap items-center gap-x-5 gap-y-1 border-b border-hair px-3.5 py-2 text-[13px] text-ink-2">
          <span><b className="font-[650] text-ink">{line.rows}</b> rows read, {data.aside.length} set aside</span>
          <span><b className="font-[650] text-ink">{line.students}</b> students</span>
          <span>{line.toDecide > 0 ? <Warn><b>{line.faults}</b> faults: {line.toDecide} to look at, {line.faults - line.toDecide} mended</Warn> : `${line.faults} faults, all mended`}</span>
          <span className="ml-auto truncate">Sheet <b className="font-[620] text-ink">{plan.sheet}</b> of {data.sheets.length}, {line.fileName}</span>
        </div>
        <SheetView rows={rowAt} count={data.totalRows} columns={plan.columns.length} headerRow={plan.headerRow} aside={new Set(data.aside)} marks={faults} chosen={chosen} onChoose={choose} meaning={(column) => { const own = plan.columns[column]; return own === undefined ? null : <MeaningHead column={{ ...own, confidence: 1 }} title={own.title} onChange={undefined} />; }} />
      </Panel>
      <FaultPanel faults={faults} chosen={chosen} who={(row) => whoInRow(plan.columns, rows.get(row))} onStep={step} onChoose={choose}>
        <Panel className="px-4 py-3.5">
          <h2>Reading {line.number}, {moment(line.readAt, me.timeZone)}</h2>
          <p className="mt-1 text-ink-2">Read by {line.readBy} from {line.fileName}. When the sheet has changed, drop it anywhere on this page.</p>
          <div className="mt-2"><Samples onTake={onTake} /></div>
        </Panel>
      </FaultPanel>
    </div>
  );
}

import { useRef, type KeyboardEvent } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { counted } from "@amigo/core/text/sentence";
import type { Board, BoardCell, BoardRow } from "@amigo/contract/lists";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { Choice } from "../ui/Choice";
import { Minus, Plus, Warn } from "../ui/Signs";
import { StepBar } from "../ui/StepBar";
import { moment } from "../ui/time";
import { useBoardQuery } from "../data/board";

/** Home: one row a class, grouped by site; one column a recipe; every cell a list with its step bar. */
export function BoardPage() {
  const me = useMe();
  const { data: board, error } = useBoardQuery();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  if (error !== undefined) return <FaultLine error={error} />;
  if (board === undefined) return <Loading what="the board" />;
  if (board.lists === 0) return <FirstSteps board={board} />;
  const site = search.get("site") ?? "";
  const byTrouble = search.get("order") === "trouble";
  const set = (name: string, value: string): void => setSearch((before) => { if (value === "") before.delete(name); else before.set(name, value); return before; }, { replace: true });
  const line = <>{counted(board.lists, "list")}, {board.outOfStep === 0 ? "all in step" : `${board.outOfStep} out of step`}{board.lastReading !== null && <> with <b className="font-[620] text-ink">{board.lastReading.source}</b>, read {moment(board.lastReading.at, me.timeZone)}</>}</>;
  const sites = board.sites.filter(({ name }) => site === "" || name === site);
  return (
    <>
      <PageHead title="Board" line={line}>
        {board.sites.length > 1 && <Choice label="Sites shown" value={site} onChange={(value) => set("site", value)} options={[{ value: "", name: "All sites" }, ...board.sites.map(({ name }) => ({ value: name, name }))]} />}
        <Choice label="Order of the classes" value={byTrouble ? "trouble" : ""} onChange={(value) => set("order", value)} options={[{ value: "", name: "By name" }, { value: "trouble", name: "Most trouble first" }]} />
        {board.openCauses > 0 && me.role === "coordinator" && <Button look="go" onClick={() => void navigate("/changes")}>Look at {counted(board.openCauses, "change")}</Button>}
      </PageHead>
      <Grid board={board} sites={sites} byTrouble={byTrouble} />
    </>
  );
}

function FirstSteps({ board }: { board: Board }) {
  const me = useMe();
  const navigate = useNavigate();
  if (me.role !== "coordinator") return <><PageHead title="Board" /><Panel><Empty title="No list of yours yet"><p>As soon as a coordinator has read the roster, the lists that you lead stand here.</p></Empty></Panel></>;
  return (
    <>
      <PageHead title="Board" line="No lists yet" />
      <Panel><Empty title={board.hasRound ? "Your first round is ready" : "Lists come out of your roster"}>
        {board.hasRound
          ? <><p className="mb-4">The roster has been read. Look at what it will do, then bring the lists in step with one button.</p><Button look="go" onClick={() => void navigate("/changes")}>Look at the first round</Button></>
          : <><p className="mb-4">Drop the sheet that the office keeps. Amigo finds the classes, students and guardians in it and proposes a list of each.{me.demo && " This demo house has sample sheets ready."}</p><Button look="go" onClick={() => void navigate("/sources")}>Read the first sheet</Button></>}
      </Empty></Panel>
    </>
  );
}

function trouble(row: BoardRow): number {
  return row.cells.reduce((sum, { joins, leaves }) => sum + joins + leaves, 0) * 10 + (row.students - row.reached);
}

function Grid({ board, sites, byTrouble }: { board: Board; sites: Board["sites"]; byTrouble: boolean }) {
  const grid = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const columns = `minmax(170px,210px) repeat(${board.recipes.length},minmax(0,1fr)) 150px`;
  const move = (event: KeyboardEvent): void => {
    const links = [...(grid.current?.querySelectorAll<HTMLAnchorElement>("a[data-cell]") ?? [])];
    const at = links.findIndex((link) => link === document.activeElement);
    const [row = 0, column = 0] = (links[at]?.dataset.cell ?? "0 0").split(" ").map(Number);
    if (event.key.toLowerCase() === "w" && at >= 0) { void navigate(`/mail/write?to=${links[at]?.dataset.list ?? ""}`); event.preventDefault(); return; }
    const step = { ArrowRight: [0, 1], ArrowLeft: [0, -1], ArrowDown: [1, 0], ArrowUp: [-1, 0] }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const [down = 0, right = 0] = step;
    const wanted = at < 0 ? links[0] : right !== 0 ? links[at + right] : links.filter((link) => Number(link.dataset.cell?.split(" ")[1]) === column).find((link, _, all) => { const own = Number(link.dataset.cell?.split(" ")[0]); return down > 0 ? own > row : own === Math.max(...all.map((other) => Number(other.dataset.cell?.split(" ")[0])).filter((other) => other < row)); });
    wanted?.focus();
    wanted?.scrollIntoView({ block: "nearest" });
  };
  let line = 0;
  return (
    <Panel className="overflow-clip">
      <div ref={grid} role="table" aria-label="Classes and their lists" onKeyDown={move}>
        <div role="row" className="sticky -top-4 z-10 grid rounded-t-lg border-b border-hair bg-panel text-[13px] text-ink-2" style={{ gridTemplateColumns: columns }}>
          <div role="columnheader" className="px-3.5 py-[7px]">Class</div>
          {board.recipes.map(({ id, label }) => <div key={id} role="columnheader" className="border-l border-hair-soft px-3.5 py-[7px]">{label}</div>)}
          <div role="columnheader" className="border-l border-hair-soft px-3.5 py-[7px]">Reach</div>
        </div>
        {sites.map((site) => {
          const rows = byTrouble ? [...site.rows].sort((a, b) => trouble(b) - trouble(a)) : site.rows;
          return (
            <div key={site.name} role="rowgroup" aria-label={site.name} className="group/site">
              <div role="row" className="flex items-baseline gap-2.5 border-b border-hair bg-sunk px-3.5 pt-[9px] pb-1.5"><b role="rowheader" className="font-[660]">{site.name}</b><span className="text-[13px] text-ink-3">{counted(site.rows.length, "class", "classes")}, {counted(site.rows.reduce((sum, { students }) => sum + students, 0), "place")} taken</span></div>
              {rows.map((row) => {
                const own = line++;
                return (
                  <div key={row.cohort} role="row" className="grid border-b border-hair-soft group-last/site:last:border-b-0" style={{ gridTemplateColumns: columns }}>
                    <div role="rowheader" className="min-w-0 px-3.5 py-2"><b className="block truncate font-[620]">{row.name}</b><span className="block truncate text-[13px] text-ink-3">{[row.coach, row.levels].filter((part) => part !== "").join(" · ")}</span></div>
                    {row.cells.map((cell, column) => <Cell key={cell.recipe} cell={cell} at={`${own} ${column}`} label={`${row.name}, ${board.recipes[column]?.label ?? ""}`} />)}
                    <Reach row={row} />
                  </div>
                );
              })}
            </div>
          );
        })}
      </div>
    </Panel>
  );
}

function Cell({ cell, at, label }: { cell: BoardCell; at: string; label: string }) {
  if (cell.list === null) return <div role="cell" className="border-l border-hair-soft" />;
  return (
    <div role="cell" className="min-w-0 border-l border-hair-soft">
      <Link to={`/lists/${cell.list}`} data-cell={at} data-list={cell.list} className="block h-full px-3.5 py-2 hover:bg-petrol-soft focus-visible:bg-petrol-soft focus-visible:-outline-offset-2">
        <span className="mb-1.5 flex items-baseline gap-2"><b className="min-w-6 text-[16px] font-[650]"><span className="sr-only">{label}: </span>{cell.count}<span className="sr-only"> {cell.count === 1 ? "member" : "members"} </span></b><span className="mono min-w-0 flex-1 truncate text-ink-2" title={cell.name}>{cell.name}</span><span className="flex gap-1 text-[13px]"><Plus count={cell.joins} /><Minus count={cell.leaves} /></span></span>
        <span className="sr-only">{cell.joins > 0 && ` ${cell.joins} to join`}{cell.leaves > 0 && ` ${cell.leaves} to leave`}</span>
        <div aria-hidden="true"><StepBar count={cell.count} joins={cell.joins} leaves={cell.leaves} /></div>
      </Link>
    </div>
  );
}

function Reach({ row }: { row: BoardRow }) {
  const missing = row.students - row.reached;
  return (
    <div role="cell" className="border-l border-hair-soft px-3.5 py-2 text-[13px] text-ink-2" title={`${row.reached} of ${row.students} students have a guardian whose address works`}>
      {missing > 0 ? <Warn>{missing} of {row.students} not reached</Warn> : `all ${row.students} reached`}
      <div className="mt-1.5 h-[5px] overflow-hidden rounded-[3px] bg-hair-soft"><div className="h-full bg-petrol" style={{ width: `${row.students === 0 ? 0 : (100 * row.reached) / row.students}%` }} /></div>
    </div>
  );
}

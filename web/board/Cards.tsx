import { Link } from "react-router";
import type { Board, BoardCell, BoardRow } from "@amigo/contract/board";
import { Minus, Plus } from "../ui/Signs";
import { StepBar } from "../ui/StepBar";
import { Reached } from "./Reached";
import { t } from "../texts/board";

/** The board on a narrow screen: one card a class, with a line for each of its lists. */
export function Cards({
  columns,
  sites,
  isDim,
  onMake,
}: {
  columns: Board["columns"];
  sites: Board["sites"];
  isDim: (cell: BoardCell) => boolean;
  onMake: ((key: string, title: string) => void) | undefined;
}) {
  return (
    <div className="flex flex-col gap-3">
      {sites.map((site) => (
        <section key={site.name} aria-label={site.name} className="flex flex-col gap-2.5">
          <h2 className="text-ink-2">{site.name}</h2>
          {site.rows.map((row) => (
            <Card key={row.cohort} row={row} columns={columns} isDim={isDim} onMake={onMake} />
          ))}
        </section>
      ))}
    </div>
  );
}

/** Cards far out of sight cost no layout, so that a board of hundreds of classes scrolls well. */
const OUT_OF_SIGHT = "[content-visibility:auto] [contain-intrinsic-size:auto_190px]";

function Card({
  row,
  columns,
  isDim,
  onMake,
}: {
  row: BoardRow;
  columns: Board["columns"];
  isDim: (cell: BoardCell) => boolean;
  onMake: ((key: string, title: string) => void) | undefined;
}) {
  return (
    <article className={`rounded-lg border border-hair bg-panel p-3 ${OUT_OF_SIGHT}`}>
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-3">
        <h3 className="text-[16px] font-[650]">{row.name}</h3>
        <span className="text-[13px] text-ink-3">
          {[row.kind === "class" ? "" : row.kind, row.coach, row.levels]
            .filter((part) => part !== "")
            .join(" · ")}
        </span>
      </div>
      <ul>
        {row.cells.map((cell, column) => {
          const label = columns[column]?.label ?? "";
          return (
            <li key={label} className={isDim(cell) ? "bg-sunk" : ""}>
              <CardLine cell={cell} label={label} name={row.name} onMake={onMake} />
            </li>
          );
        })}
      </ul>
      <p className="mt-1 text-[13px] text-ink-2">
        <Reached row={row} />
      </p>
    </article>
  );
}

function CardLine({
  cell,
  label,
  name,
  onMake,
}: {
  cell: BoardCell;
  label: string;
  name: string;
  onMake: ((key: string, title: string) => void) | undefined;
}) {
  if (cell.list === null)
    return onMake === undefined || cell.key === "" ? null : (
      <button
        type="button"
        onClick={() =>
          onMake(
            cell.key,
            cell.closed
              ? t("board.openTheListAgain2", { name, label })
              : t("board.makeTheList2", { name, label }),
          )
        }
        className="flex min-h-[40px] w-full items-center justify-between text-left text-[13px] text-petrol underline underline-offset-2"
      >
        {cell.closed ? t("board.openTheListAgain", { label }) : t("board.makeTheList", { label })}
      </button>
    );
  return (
    <Link
      to={`/lists/${cell.list}`}
      className="grid min-h-[40px] grid-cols-[34px_minmax(0,1fr)_auto] items-center gap-x-2 py-1"
    >
      <b className="text-[16px] font-[650]">{cell.count}</b>
      <span className="min-w-0">
        <span className="mb-1 block text-[13px]">{label}</span>
        <span aria-hidden="true" className="block">
          <StepBar count={cell.count} joins={cell.joins} leaves={cell.leaves} />
        </span>
      </span>
      <span className="flex gap-1 self-start text-[13px]">
        <Plus count={cell.joins} />
        <Minus count={cell.leaves} />
      </span>
    </Link>
  );
}

import {
  type CSSProperties,
  useEffect,
  useEffectEvent,
  useRef,
  useState,
  type KeyboardEvent,
} from "react";
import { cellAfter, isMove, type CellPlace, type GridSize } from "./gridMoves";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useNavigate } from "react-router";
import type { Board, BoardCell, BoardRow } from "@amigo/contract/board";
import { Reached } from "./Reached";
import { t } from "../texts/board";
import { Cell } from "./Cell";

type Site = Board["sites"][number];
type Line = { site: Site } | { row: BoardRow };

const SITE_HEIGHT = 36;
const ROW_HEIGHT = 57;
/** The first column, each recipe's, and the reach. */
const FIRST = 200;
const EACH = 200;
const LAST = 150;

/**
 * The grid of classes and lists. Only the rows in view are drawn, so that it stays fluid with thousands; arrows go from
 * cell to cell also where the next row is not drawn yet.
 */
export function Grid({
  columns,
  sites,
  isDim,
  onMake,
}: {
  columns: Board["columns"];
  sites: readonly Site[];
  isDim: (cell: BoardCell) => boolean;
  onMake: ((key: string, title: string) => void) | undefined;
}) {
  const scroll = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const lines = sites.flatMap((site): Line[] => [{ site }, ...site.rows.map((row) => ({ row }))]);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroll.current,
    estimateSize: (index) =>
      lines[index] !== undefined && "site" in lines[index] ? SITE_HEIGHT : ROW_HEIGHT,
    overscan: 8,
    getItemKey: (index) => {
      const line = lines[index];
      return line === undefined
        ? index
        : "site" in line
          ? t("board.site", { name: line.site.name })
          : line.row.cohort;
    },
  });
  const [wanted, setWanted] = useState<{ line: number; column: number }>();
  const template = `minmax(170px,${FIRST + 10}px) repeat(${columns.length},minmax(${EACH}px,1fr)) ${LAST}px`;
  const cellAt = (line: number, column: number): HTMLElement | null =>
    scroll.current?.querySelector<HTMLElement>(`[data-cell="${line} ${column}"]`) ?? null;
  const focusWanted = useEffectEvent(() => {
    const cell = wanted === undefined ? null : cellAt(wanted.line, wanted.column);
    if (cell === null) return;
    cell.focus();
    cell.scrollIntoView({ block: "nearest", inline: "nearest" });
    setWanted(undefined);
  });
  useEffect(() => {
    focusWanted();
  });
  const size: GridSize = {
    lines: lines.length,
    columns: columns.length,
    hasCell: ({ line, column }) => {
      const at = lines[line];
      const cell = at !== undefined && "row" in at ? at.row.cells[column] : undefined;
      return cell !== undefined && (cell.list !== null || onMake !== undefined);
    },
  };
  const move = (event: KeyboardEvent): void => {
    const target =
      event.target instanceof HTMLElement ? event.target.closest<HTMLElement>("[data-cell]") : null;
    if (target === null) return;
    if (event.key.toLowerCase() === "w" && target.dataset.list !== undefined) {
      void navigate(`/mail/write?to=${target.dataset.list}`);
      event.preventDefault();
    } else if (isMove(event.key)) {
      const [line = 0, column = 0] = (target.dataset.cell ?? "0 0").split(" ").map(Number);
      const to = cellAfter(event.key, { line, column }, size);
      if (to !== undefined) {
        rows.scrollToIndex(to.line, { align: "auto" });
        setWanted(to);
      }
      event.preventDefault();
    }
  };
  const first = firstCell(size);
  return (
    <div
      ref={scroll}
      role="table"
      aria-label={t("board.classesAndTheirLists")}
      aria-rowcount={lines.length + 1}
      onKeyDown={move}
      className="max-lg:h-[65dvh] min-h-[220px] overflow-auto lg:flex-1 rounded-lg border border-hair bg-panel"
    >
      <BoardHead template={template} columns={columns} />
      <div role="rowgroup" className="relative min-w-fit" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, key, start, size: height }) => {
          const line = lines[index];
          if (line === undefined) return null;
          const place = { transform: `translateY(${start}px)`, height };
          return "site" in line ? (
            <SiteLine key={key} site={line.site} at={index} place={place} />
          ) : (
            <ClassLine
              key={key}
              row={line.row}
              at={index}
              place={{ ...place, gridTemplateColumns: template }}
              columns={columns}
              first={first}
              isDim={isDim}
              onMake={onMake}
            />
          );
        })}
      </div>
    </div>
  );
}

/** The first cell of the board, to which the Tab key leads. */
function firstCell(size: GridSize): CellPlace | undefined {
  for (let line = 0; line < size.lines; line++)
    for (let column = 0; column < size.columns; column++)
      if (size.hasCell({ line, column })) return { line, column };
  return undefined;
}

function SiteLine({ site, at, place }: { site: Site; at: number; place: CSSProperties }) {
  return (
    <div
      role="row"
      aria-rowindex={at + 2}
      className="absolute inset-x-0 flex items-baseline gap-2.5 border-b border-hair bg-sunk px-3.5 pt-[9px] pb-1.5"
      style={place}
    >
      <b role="rowheader" className="font-[660]">
        {site.name}
      </b>
      <span className="text-[13px] text-ink-3">{wordsFor(site)}</span>
    </div>
  );
}

/** A class with its lists and how many of its students are reached. */
function ClassLine({
  row,
  at,
  place,
  columns,
  first,
  isDim,
  onMake,
}: {
  row: BoardRow;
  at: number;
  place: CSSProperties;
  columns: Board["columns"];
  first: CellPlace | undefined;
  isDim: (cell: BoardCell) => boolean;
  onMake: ((key: string, title: string) => void) | undefined;
}) {
  return (
    <div
      role="row"
      aria-rowindex={at + 2}
      className="absolute inset-x-0 grid min-w-fit border-b border-hair-soft"
      style={place}
    >
      <div role="rowheader" className="sticky left-0 min-w-0 bg-panel px-3.5 py-2">
        <b className="block truncate font-[620]">{row.name}</b>
        <span className="block truncate text-[13px] text-ink-3">
          {[row.kind === "class" ? "" : row.kind, row.coach, row.levels]
            .filter((part) => part !== "")
            .join(" · ")}
        </span>
      </div>
      {row.cells.map((cell, column) => (
        <Cell
          key={column}
          cell={cell}
          at={`${at} ${column}`}
          isFirst={first?.line === at && first.column === column}
          label={`${row.name}, ${columns[column]?.label ?? ""}`}
          dim={isDim(cell)}
          onMake={onMake}
        />
      ))}
      <Reach row={row} />
    </div>
  );
}

function wordsFor({ rows }: Site): string {
  const of = (kind: string): number => rows.filter((row) => row.kind === kind).length;
  const parts = [
    of("class") > 0 ? t("board.classes", { value: of("class") }) : "",
    of("team") > 0 ? t("board.teams", { value: of("team") }) : "",
    of("committee") > 0 ? t("board.committees", { value: of("committee") }) : "",
  ].filter((part) => part !== "");
  return t("board.placesTaken", {
    list: parts.join(", "),
    value: rows.reduce((sum, { students }) => sum + students, 0),
  });
}

function Reach({ row }: { row: BoardRow }) {
  return (
    <div
      role="cell"
      className="border-l border-hair-soft px-3.5 py-2 text-[13px] text-ink-2"
      title={t("board.ofStudentsHaveAGuardian", { reached: row.reached, students: row.students })}
    >
      <Reached row={row} />
      <div className="mt-1.5 h-[5px] overflow-hidden forced-color-adjust-none rounded-[3px] bg-hair-soft">
        <div
          className="h-full bg-petrol"
          style={{ width: `${row.students === 0 ? 0 : (100 * row.reached) / row.students}%` }}
        />
      </div>
    </div>
  );
}

function BoardHead({ template, columns }: { template: string; columns: { label: string }[] }) {
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="sticky top-0 z-10 grid min-w-fit border-b border-hair bg-panel text-[13px] text-ink-2"
      style={{ gridTemplateColumns: template }}
    >
      <div role="columnheader" className="sticky left-0 bg-panel px-3.5 py-[7px]">
        {t("board.class")}
      </div>
      {columns.map(({ label }) => (
        <div key={label} role="columnheader" className="border-l border-hair-soft px-3.5 py-[7px]">
          {label}
        </div>
      ))}
      <div role="columnheader" className="border-l border-hair-soft px-3.5 py-[7px]">
        {t("board.reach")}
      </div>
    </div>
  );
}

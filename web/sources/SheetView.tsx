import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, type KeyboardEvent, type ReactNode } from "react";
import { columnLetters } from "@amigo/core/sheet/sheet";
import { t } from "../texts/t";

/** A cell that is marked, and how it was answered. Row counts from 1, column from 0. */
export interface CellMark {
  /** The sheet among those that are read, from 0. */
  sheet: number;
  row: number;
  column: number;
  answer: "clean" | "probably" | "unusable";
  /** The correction by which it is read otherwise, or null. */
  correction?: string | null | undefined;
  proposal: string | null | undefined;
}

const ROW = 29;
const LETTER_WIDTH = 7.3;
/** Rows and columns that a key moves the picked cell by. */
const MOVES: Record<string, readonly [number, number]> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
};

/**
 * A sheet shown as a sheet: only the rows in view are drawn, the meanings and the row numbers stand
 * still while it scrolls, faulty cells are marked, rows that are not read are pale.
 */
export function SheetView({
  rows,
  count,
  headerRow,
  aside,
  marks,
  chosen,
  onChoose,
  onPick,
  meaning,
  columns,
}: {
  /** The cells of a row, counted from 0; undefined while they are being fetched. */
  rows: (row: number) => readonly string[] | undefined;
  count: number;
  headerRow: number;
  aside: ReadonlySet<number>;
  marks: readonly CellMark[];
  chosen: CellMark | undefined;
  onChoose: (mark: CellMark) => void;
  /** Picks any cell to correct it, by its row from 1 and its column from 0; undefined where cells can't be corrected. */
  onPick?: ((row: number, column: number) => void) | undefined;
  meaning: (column: number) => ReactNode;
  columns: number;
}) {
  const scroll = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 14,
    paddingStart: 0,
  });
  const byCell = useMemo(
    () => new Map(marks.map((mark) => [`${mark.row} ${mark.column}`, mark])),
    [marks],
  );
  const widths = useMemo(
    () =>
      Array.from({ length: columns }, (_, column) => {
        let longest = 8;
        for (let row = headerRow; row < Math.min(count, headerRow + 120); row++)
          longest = Math.max(longest, Math.min(34, rows(row)?.[column]?.length ?? 0));
        return Math.round(longest * LETTER_WIDTH + 22);
      }),
    [columns, count, headerRow, rows],
  );
  const template = `46px ${widths.map((width) => `${width}px`).join(" ")}`;
  const total = widths.reduce((sum, width) => sum + width, 46);
  useEffect(() => {
    if (chosen === undefined) return;
    virtual.scrollToIndex(chosen.row - 1, { align: "center" });
    const left = widths.slice(0, chosen.column).reduce((sum, width) => sum + width, 46);
    const box = scroll.current;
    if (box === null) return;
    const right = left + (widths[chosen.column] ?? 0);
    if (right > box.scrollLeft + box.clientWidth)
      box.scrollTo({ left: right - box.clientWidth + 8 });
    else if (left - 46 < box.scrollLeft) box.scrollTo({ left: left - 46 });
  }, [chosen, virtual, widths]);
  const move = (event: KeyboardEvent): void => {
    const by = MOVES[event.key];
    if (onPick === undefined || by === undefined || event.target !== event.currentTarget) return;
    event.preventDefault();
    const from = chosen ?? { row: headerRow + 1, column: 0 };
    onPick(
      Math.min(Math.max(from.row + by[0], headerRow + 2), count),
      Math.min(Math.max(from.column + by[1], 0), columns - 1),
    );
  };
  return (
    <div
      ref={scroll}
      onKeyDown={move}
      role="table"
      aria-label={t("sources.theSheet")}
      aria-rowcount={count}
      aria-colcount={columns}
      tabIndex={0}
      className="max-lg:h-[65dvh] overflow-auto lg:min-h-0 lg:flex-1 text-[13px] focus-visible:-outline-offset-2"
    >
      <div style={{ width: total }}>
        <SheetHead template={template} widths={widths} meaning={meaning} />
        <div className="relative" role="rowgroup" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const cells = rows(index);
            const isHeader = index === headerRow;
            const pale = index < headerRow || aside.has(index + 1);
            return (
              <div
                key={index}
                role="row"
                aria-rowindex={index + 1}
                className={`absolute grid border-b border-hair-soft ${isHeader ? "bg-sunk font-[620]" : "bg-panel"}`}
                style={{
                  gridTemplateColumns: template,
                  height: ROW,
                  transform: `translateY(${start}px)`,
                  width: total,
                }}
              >
                <span
                  role="rowheader"
                  className="sticky left-0 z-10 border-r border-hair-soft bg-sunk px-2 text-right text-[12px] leading-[28px] font-normal text-ink-3"
                >
                  {index + 1}
                </span>
                {widths.map((_, column) => {
                  const text = cells?.[column] ?? "";
                  const mark = byCell.get(`${index + 1} ${column}`);
                  const base = "truncate border-r border-hair-soft px-2 leading-[28px] text-left";
                  const isPicked = chosen?.row === index + 1 && chosen.column === column;
                  if (mark === undefined)
                    return (
                      <PlainCell
                        key={column}
                        column={column}
                        isPicked={isPicked}
                        onPick={onPick}
                        isHeader={isHeader}
                        pale={pale}
                        index={index}
                        base={base}
                        text={text}
                      />
                    );
                  const mended = mark.answer === "clean" || mark.correction != null;
                  const look = mended ? "text-leaf-ink font-semibold" : "bg-marigold-soft";
                  const isChosen = chosen?.row === mark.row && chosen.column === mark.column;
                  return (
                    <MarkedCell
                      key={column}
                      column={column}
                      mark={mark}
                      isChosen={isChosen}
                      onChoose={onChoose}
                      base={base}
                      look={look}
                      mended={mended}
                      text={text}
                    />
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

function SheetHead({
  template,
  widths,
  meaning,
}: {
  template: string;
  widths: number[];
  meaning: (column: number) => ReactNode;
}) {
  return (
    <div
      role="row"
      className="sticky top-0 z-20 grid border-b border-hair bg-petrol-soft"
      style={{ gridTemplateColumns: template }}
    >
      <span className="sticky left-0 z-10 bg-petrol-soft" />
      {widths.map((_, column) => (
        <div key={column} role="columnheader" className="min-w-0 border-l border-hair-soft">
          <span className="block px-2 pt-0.5 text-[11px] text-ink-3">{columnLetters(column)}</span>
          {meaning(column)}
        </div>
      ))}
    </div>
  );
}

function PlainCell({
  column,
  isPicked,
  onPick,
  isHeader,
  pale,
  index,
  base,
  text,
}: {
  column: number;
  isPicked: boolean;
  onPick: ((row: number, column: number) => void) | undefined;
  isHeader: boolean;
  pale: boolean;
  index: number;
  base: "truncate border-r border-hair-soft px-2 leading-[28px] text-left";
  text: string;
}) {
  return (
    <span
      role="cell"
      aria-selected={isPicked ? true : undefined}
      onClick={
        onPick === undefined || isHeader || pale ? undefined : () => onPick(index + 1, column)
      }
      className={`${base} ${onPick === undefined || isHeader || pale ? "" : "cursor-pointer hover:bg-petrol-soft"} ${isPicked ? "bg-petrol-soft shadow-[inset_0_0_0_2px_var(--petrol)]" : ""} ${pale ? "overflow-visible! text-ink-3" : ""} ${!isHeader && !pale && text.includes("@") ? "mono leading-[28px]!" : ""}`}
    >
      {text}
    </span>
  );
}

function MarkedCell({
  column,
  mark,
  isChosen,
  onChoose,
  base,
  look,
  mended,
  text,
}: {
  column: number;
  mark: CellMark;
  isChosen: boolean;
  onChoose: (mark: CellMark) => void;
  base: "truncate border-r border-hair-soft px-2 leading-[28px] text-left";
  look: "text-leaf-ink font-semibold" | "bg-marigold-soft";
  mended: boolean;
  text: string;
}) {
  return (
    <span role="cell" className="min-w-0">
      <button
        type="button"
        title={mark.proposal ?? undefined}
        aria-current={isChosen}
        onClick={() => onChoose(mark)}
        className={`${base} mono block h-full w-full leading-[28px]! focus-visible:-outline-offset-2 ${look}`}
        style={{
          boxShadow: isChosen
            ? "inset 0 0 0 2px var(--marigold)"
            : mended
              ? undefined
              : "inset 0 0 0 1px var(--marigold-line)",
        }}
      >
        <span className="sr-only">
          {t("sources.rowColumn2", {
            row: mark.row,
            column: columnLetters(column),
          })}{" "}
        </span>
        {mended ? "" : <b className="text-marigold-ink">! </b>}
        {text === "" ? <span className="sr-only">{t("sources.empty2")}</span> : text}
        <span className="sr-only">
          {mark.correction != null
            ? t("sources.corrected")
            : mended
              ? t("sources.mended")
              : t("sources.toLookAt")}
        </span>
      </button>
    </span>
  );
}

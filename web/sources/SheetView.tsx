import { useEffect, useMemo, useRef, type KeyboardEvent, type ReactNode } from "react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { columnLetters } from "@amigo/core/sheet/sheet";
import { t } from "../texts/sources";
import { type CellMark, SheetRow } from "./SheetRow";

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
              <SheetRow
                key={index}
                cells={cells}
                index={index}
                columns={widths.length}
                isHeader={isHeader}
                pale={pale}
                place={{
                  gridTemplateColumns: template,
                  height: ROW,
                  transform: `translateY(${start}px)`,
                  width: total,
                }}
                markAt={(column) => byCell.get(`${index + 1} ${column}`)}
                chosen={chosen}
                onChoose={onChoose}
                onPick={onPick}
              />
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

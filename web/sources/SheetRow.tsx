import type { CSSProperties } from "react";
import { columnLetters } from "@amigo/core/sheet/sheet";
import { t } from "../texts/sources";

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

/** One row of the sheet, with the marks of cells to look at. */
export function SheetRow({
  cells,
  index,
  columns,
  isHeader,
  pale,
  place,
  markAt,
  chosen,
  onChoose,
  onPick,
}: {
  /** Undefined while they are being fetched. */
  cells: readonly string[] | undefined;
  /** Its place, counted from 0. */
  index: number;
  columns: number;
  isHeader: boolean;
  pale: boolean;
  place: CSSProperties;
  markAt: (column: number) => CellMark | undefined;
  chosen: CellMark | undefined;
  onChoose: (mark: CellMark) => void;
  onPick: ((row: number, column: number) => void) | undefined;
}) {
  return (
    <div
      role="row"
      aria-rowindex={index + 1}
      className={`absolute grid border-b border-hair-soft ${isHeader ? "bg-sunk font-[620]" : "bg-panel"}`}
      style={place}
    >
      <span
        role="rowheader"
        className="sticky left-0 z-10 border-r border-hair-soft bg-sunk px-2 text-right text-[12px] leading-[28px] font-normal text-ink-3"
      >
        {index + 1}
      </span>
      {Array.from({ length: columns }, (_, column) => {
        const text = cells?.[column] ?? "";
        const mark = markAt(column);
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
}

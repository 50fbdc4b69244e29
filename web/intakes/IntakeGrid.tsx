import { say } from "@amigo/language/say";
import { useEffect, useRef, useState, type ClipboardEvent, type KeyboardEvent } from "react";
import { INTAKE_COLUMNS, INTAKE_TITLES, LONGEST_CELL } from "@amigo/core/intake/intake";
import type { CellChange, IntakeRow } from "@amigo/contract/intakes";
import {
  clear,
  copied,
  fillDown,
  moved,
  paste,
  rowsNeeded,
  spanOf,
  stepped,
  write,
  type GridRow,
  type Place,
} from "./gridEdits";
import { cellKey } from "./useIntakeEdits";
import { t } from "../texts/t";
import { ResultCell } from "./ResultCell";
import { ApprovalCell } from "./ApprovalCell";

const WIDTHS = ["w-[13%]", "w-[22.5%]", "w-[17%]", "w-[7.5%]", "w-[7.5%]"];

/** Rows out of sight are not laid out, so that two thousand are as quick as twenty. */
const ROW_STYLE = { contentVisibility: "auto", containIntrinsicSize: "auto 31px" } as const;

interface Props {
  rows: readonly GridRow[];
  facts: ReadonlyMap<string, IntakeRow>;
  /** Cells that somebody else has just written, with their name. */
  fresh: ReadonlyMap<string, string>;
  choices: readonly string[];
  anchor: Place;
  active: Place;
  onSelect: (anchor: Place, active: Place) => void;
  onEdit: (changes: CellChange[]) => void;
  /** Sees that the grid has so many rows, and answers them. */
  onNeed: (count: number) => readonly GridRow[];
  onUndo: () => void;
  onRedo: () => void;
  /** Ticks the rows of the span, or takes the ticks away; undefined where the asker does not approve. */
  onApprove: ((ids: string[], approve: boolean) => void) | undefined;
}

/** The sheet that several people fill at once. Keys as in any grid: arrows, typing, Enter, Tab, F2, Delete, copy, paste, fill down, undo. */
export function IntakeGrid({
  rows,
  facts,
  fresh,
  choices,
  anchor,
  active,
  onSelect,
  onEdit,
  onNeed,
  onUndo,
  onRedo,
  onApprove,
}: Props) {
  const [text, setText] = useState<string>();
  const grid = useRef<HTMLDivElement>(null);
  const span = spanOf(rows, anchor, active);
  const activeRow = rows.find(({ id }) => id === active.row);
  const cellId = (place: Place): string => `cell-${place.row}-${place.column}`;
  useEffect(() => {
    document
      .getElementById(`cell-${active.row}-${active.column}`)
      ?.scrollIntoView({ block: "nearest" });
  }, [active]);

  const go = (to: Place, extend = false): void => onSelect(extend ? anchor : to, to);
  const begin = (initial: string): void => {
    if (activeRow?.locked !== true) setText(initial);
  };
  const commit = (then: Place | undefined): void => {
    if (text !== undefined) onEdit(write(activeRow, active.column, text));
    setText(undefined);
    if (then !== undefined) go(then);
    grid.current?.focus();
  };
  const column = INTAKE_COLUMNS[active.column] ?? "person";

  const press = (event: KeyboardEvent): void => {
    if (text !== undefined) {
      if (event.key === "Enter") {
        event.preventDefault();
        commit(moved(rows, active, event.shiftKey ? -1 : 1, 0));
      } else if (event.key === "Tab") {
        event.preventDefault();
        commit(stepped(rows, active, !event.shiftKey));
      } else if (event.key === "Escape") {
        event.preventDefault();
        setText(undefined);
        grid.current?.focus();
      }
      return;
    }
    const command = event.ctrlKey || event.metaKey;
    const jump = command ? rows.length : 1;
    const moves: Record<string, [number, number]> = {
      ArrowDown: [jump, 0],
      ArrowUp: [-jump, 0],
      ArrowRight: [0, command ? 9 : 1],
      ArrowLeft: [0, command ? -9 : -1],
      PageDown: [15, 0],
      PageUp: [-15, 0],
      Home: [command ? -rows.length : 0, -9],
      End: [command ? rows.length : 0, 9],
    };
    const move = moves[event.key];
    const key = event.key.toLowerCase();
    if (move !== undefined) go(moved(rows, active, ...move), event.shiftKey);
    else if (command && key === "z") (event.shiftKey ? onRedo : onUndo)();
    else if (command && key === "y") onRedo();
    else if (command && key === "d") onEdit(fillDown(rows, span));
    else if (command && key === "a") {
      const [first, last] = [rows[0], rows[rows.length - 1]];
      if (first !== undefined && last !== undefined)
        onSelect({ row: first.id, column: 0 }, { row: last.id, column: INTAKE_COLUMNS.length - 1 });
    } else if (command) return;
    else if (event.key === "Enter" || event.key === "F2") begin(activeRow?.cells[column] ?? "");
    else if (event.key === "Delete" || event.key === "Backspace") onEdit(clear(rows, span));
    else if (event.key === " " && onApprove !== undefined) {
      const ids = rows.slice(span.top, span.bottom + 1).map(({ id }) => id);
      onApprove(ids, facts.get(active.row)?.approvedBy === "");
    } else if (event.key.length === 1 && event.key !== " ") begin(event.key);
    else return;
    event.preventDefault();
  };
  const take = (event: ClipboardEvent, cut: boolean): void => {
    if (text !== undefined) return;
    event.preventDefault();
    event.clipboardData.setData("text/plain", copied(rows, span));
    if (cut) onEdit(clear(rows, span));
  };
  const put = (event: ClipboardEvent): void => {
    if (text !== undefined) return;
    event.preventDefault();
    const pasted = event.clipboardData.getData("text/plain");
    const needed = Math.min(rowsNeeded(span, pasted), span.top + 1000);
    onEdit(paste(onNeed(needed), span, pasted).slice(0, 5000));
  };

  return (
    <div
      ref={grid}
      role="grid"
      tabIndex={0}
      aria-label={t("intakes.rowsOfTheSheet")}
      aria-multiselectable
      aria-rowcount={rows.length + 1}
      aria-colcount={INTAKE_COLUMNS.length + 3}
      aria-activedescendant={cellId(active)}
      onKeyDown={press}
      onCopy={(event) => take(event, false)}
      onCut={(event) => take(event, true)}
      onPaste={put}
      className="max-lg:h-[65dvh] overflow-auto lg:min-h-0 lg:flex-1 outline-offset-[-2px]"
    >
      <datalist id="intake-targets">
        {choices.map((choice) => (
          <option key={choice} value={choice} />
        ))}
      </datalist>
      <div className="w-full min-w-[820px] text-[13px]" role="rowgroup">
        <GridHead />
        {rows.map((row, down) => {
          const fact = facts.get(row.id);
          const ticked = fact !== undefined && fact.approvedBy !== "";
          return (
            <div
              key={row.id}
              role="row"
              aria-rowindex={down + 2}
              style={ROW_STYLE}
              className={`flex border-b border-hair-soft ${row.locked ? "bg-sunk" : ""}`}
            >
              <div role="rowheader" className="w-10 shrink-0 px-2 py-1 text-right text-ink-3">
                {down + 1}
              </div>
              {INTAKE_COLUMNS.map((name, at) => {
                const isActive = active.row === row.id && active.column === at;
                const inSpan =
                  down >= span.top && down <= span.bottom && at >= span.left && at <= span.right;
                const fault =
                  row.cells[name] === ""
                    ? undefined
                    : fact?.faults.find((candidate) => candidate.column === name);
                const writer = fresh.get(cellKey(row.id, name));
                return (
                  <div
                    key={name}
                    id={cellId({ row: row.id, column: at })}
                    role="gridcell"
                    aria-colindex={at + 2}
                    aria-selected={inSpan}
                    aria-readonly={row.locked}
                    aria-invalid={fault !== undefined}
                    title={
                      fault?.sentence ??
                      (writer === undefined ? undefined : t("intakes.justWrittenBy", { writer }))
                    }
                    onMouseDown={(event) => {
                      if (isActive && text !== undefined) return;
                      if (text !== undefined) commit(undefined);
                      go({ row: row.id, column: at }, event.shiftKey);
                    }}
                    onMouseEnter={(event) => {
                      if (event.buttons === 1 && text === undefined)
                        go({ row: row.id, column: at }, true);
                    }}
                    onDoubleClick={() => begin(row.cells[name])}
                    onPointerUp={(event) => {
                      // A touch has no keys to start with, so a tap opens the cell.
                      if (event.pointerType === "touch" && !row.locked) begin(row.cells[name]);
                    }}
                    className={`relative ${WIDTHS[at]} h-[30px] shrink-0 select-none border-l border-hair-soft ${isActive ? "outline-2 outline-offset-[-2px] outline-petrol" : fault !== undefined ? "outline outline-offset-[-1px] outline-marigold" : ""} ${writer !== undefined ? "bg-leaf-soft" : fault !== undefined ? "bg-marigold-soft" : inSpan ? "bg-petrol-soft" : ""} ${row.locked ? "text-ink-2" : ""}`}
                  >
                    {isActive && text !== undefined ? (
                      <input
                        autoFocus
                        aria-label={t("intakes.row2", {
                          column: INTAKE_TITLES[name],
                          row: down + 1,
                        })}
                        value={text}
                        maxLength={LONGEST_CELL}
                        onChange={(event) => setText(event.target.value)}
                        onBlur={() => {
                          if (text !== undefined) commit(undefined);
                        }}
                        list={name === "to" ? "intake-targets" : undefined}
                        spellCheck={false}
                        autoComplete="off"
                        className={`h-full w-full bg-panel px-2 outline-none ${name === "address" ? "mono" : ""}`}
                      />
                    ) : (
                      <div className={`truncate px-2 py-[5px] ${name === "address" ? "mono" : ""}`}>
                        <span className="sr-only">
                          {t("intakes.rowEmpty", {
                            column: INTAKE_TITLES[name],
                            row: down + 1,
                            isEmpty: String(row.cells[name] === ""),
                          })}
                        </span>
                        {fault !== undefined && <b className="text-marigold-ink">! </b>}
                        {row.cells[name]}
                        {fault !== undefined && <span className="sr-only"> {fault.sentence}</span>}
                      </div>
                    )}
                  </div>
                );
              })}
              <ApprovalCell
                fact={fact}
                onApprove={onApprove}
                row={row}
                down={down}
                ticked={ticked}
              />
              <ResultCell fact={fact} ticked={ticked} />
            </div>
          );
        })}
      </div>
    </div>
  );
}

function GridHead() {
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="sticky top-0 z-10 flex border-b border-hair bg-petrol-soft font-[560] text-petrol"
    >
      <div role="columnheader" className="w-10 shrink-0 px-2 py-1.5 text-right">
        <span className="sr-only">{t("intakes.row")}</span>
      </div>
      {INTAKE_COLUMNS.map((name, at) => (
        <div
          key={name}
          role="columnheader"
          className={`${WIDTHS[at]} shrink-0 border-l border-hair px-2 py-1.5`}
        >
          {say(INTAKE_TITLES[name])}
        </div>
      ))}
      <div role="columnheader" className="w-[74px] shrink-0 border-l border-hair px-2 py-1.5">
        {t("intakes.approve")}
      </div>
      <div role="columnheader" className="min-w-0 flex-1 border-l border-hair px-2 py-1.5">
        {t("intakes.result")}
      </div>
    </div>
  );
}

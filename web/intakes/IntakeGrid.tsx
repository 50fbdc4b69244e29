import { GridCell } from "./GridCell";
import { gridAction, type GridAction } from "./gridKeys";
import {
  type RefObject,
  useEffect,
  useRef,
  useState,
  type ClipboardEvent,
  type KeyboardEvent,
} from "react";
import { INTAKE_COLUMNS } from "@amigo/core/intake/intake";
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
  type Span,
} from "./gridEdits";
import { cellKey } from "./useIntakeEdits";
import { t } from "../texts/intakes";
import { ResultCell } from "./ResultCell";
import { ApprovalCell } from "./ApprovalCell";
import { GridHead } from "./GridHead";

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
  /** Makes sure that the grid has the given number of rows, and returns them. */
  onNeed: (count: number) => readonly GridRow[];
  onUndo: () => void;
  onRedo: () => void;
  /** Ticks the rows of the span, or takes the ticks away; undefined where the asker does not approve. */
  onApprove: ((ids: string[], approve: boolean) => void) | undefined;
}

/** The sheet that several people fill at once. Keys as in any grid: arrows, typing, Enter, Tab, F2, Delete, copy, paste, fill down, undo. */
export function IntakeGrid(props: Props) {
  const { rows, choices, anchor, active } = props;
  const span = spanOf(rows, anchor, active);
  const grid = useRef<HTMLDivElement>(null);
  const typing = useTyping(props, grid);
  const press = useGridKeys(props, typing);
  const { take, put } = clipboardOf(props, typing);
  useEffect(() => {
    document.getElementById(cellId(active))?.scrollIntoView({ block: "nearest" });
  }, [active]);
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
        {rows.map((row, down) => (
          <Line key={row.id} row={row} down={down} span={span} props={props} typing={typing} />
        ))}
      </div>
    </div>
  );
}

function cellId(place: Place): string {
  return `cell-${place.row}-${place.column}`;
}

type Typing = ReturnType<typeof useTyping>;

/** What is being typed into the active cell, and how it ends. */
function useTyping(
  { rows, active, onSelect, onEdit }: Props,
  grid: RefObject<HTMLDivElement | null>,
) {
  const [text, setText] = useState<string>();
  const activeRow = rows.find(({ id }) => id === active.row);
  return {
    text,
    setText,
    activeRow,
    begin: (initial: string): void => {
      if (activeRow?.locked !== true) setText(initial);
    },
    /** Writes what was typed, and goes on to another cell. */
    commit: (then?: Place): void => {
      if (text !== undefined) onEdit(write(activeRow, active.column, text));
      setText(undefined);
      if (then !== undefined) onSelect(then, then);
      grid.current?.focus();
    },
    cancel: (): void => {
      setText(undefined);
      grid.current?.focus();
    },
  };
}

function useGridKeys(props: Props, typing: Typing): (event: KeyboardEvent) => void {
  const { rows, facts, anchor, active, onSelect, onEdit, onUndo, onRedo, onApprove } = props;
  const pressTyping = (event: KeyboardEvent): void => {
    if (event.key === "Enter") typing.commit(moved(rows, active, event.shiftKey ? -1 : 1, 0));
    else if (event.key === "Tab") typing.commit(stepped(rows, active, !event.shiftKey));
    else if (event.key === "Escape") typing.cancel();
    else return;
    event.preventDefault();
  };
  const selectAll = (): void => {
    const [first, last] = [rows[0], rows[rows.length - 1]];
    if (first !== undefined && last !== undefined)
      onSelect({ row: first.id, column: 0 }, { row: last.id, column: INTAKE_COLUMNS.length - 1 });
  };
  const approve = (): void => {
    const { top, bottom } = spanOf(rows, anchor, active);
    const ids = rows.slice(top, bottom + 1).map(({ id }) => id);
    onApprove?.(ids, facts.get(active.row)?.approvedBy === "");
  };
  const run = (action: GridAction): void => {
    const span = spanOf(rows, anchor, active);
    switch (action.does) {
      case "move": {
        const to = moved(rows, active, action.rows, action.columns);
        return onSelect(action.extend ? anchor : to, to);
      }
      case "undo":
        return onUndo();
      case "redo":
        return onRedo();
      case "fill down":
        return onEdit(fillDown(rows, span));
      case "select all":
        return selectAll();
      case "edit":
        return typing.begin(
          typing.activeRow?.cells[INTAKE_COLUMNS[active.column] ?? "person"] ?? "",
        );
      case "clear":
        return onEdit(clear(rows, span));
      case "approve":
        return approve();
      case "type":
        return typing.begin(action.text);
    }
  };
  return (event) => {
    if (typing.text !== undefined) return pressTyping(event);
    const action = gridAction(event, rows.length);
    if (action === undefined || (action.does === "approve" && onApprove === undefined)) return;
    run(action);
    event.preventDefault();
  };
}

/** Copying, cutting and pasting of the selected cells; while a cell is typed into, these are the field's. */
function clipboardOf({ rows, anchor, active, onEdit, onNeed }: Props, { text }: Typing) {
  const span = spanOf(rows, anchor, active);
  return {
    take: (event: ClipboardEvent, cut: boolean): void => {
      if (text !== undefined) return;
      event.preventDefault();
      event.clipboardData.setData("text/plain", copied(rows, span));
      if (cut) onEdit(clear(rows, span));
    },
    put: (event: ClipboardEvent): void => {
      if (text !== undefined) return;
      event.preventDefault();
      const pasted = event.clipboardData.getData("text/plain");
      const needed = Math.min(rowsNeeded(span, pasted), span.top + 1000);
      onEdit(paste(onNeed(needed), span, pasted).slice(0, 5000));
    },
  };
}

/** One row of the sheet, with its approval and the result. */
function Line({
  row,
  down,
  span: { top, bottom, left, right },
  props,
  typing,
}: {
  row: GridRow;
  /** Its place, counted from 0. */
  down: number;
  span: Span;
  props: Props;
  typing: Typing;
}) {
  const { facts, fresh, anchor, active, onSelect, onApprove } = props;
  const fact = facts.get(row.id);
  const ticked = fact !== undefined && fact.approvedBy !== "";
  return (
    <div
      role="row"
      aria-rowindex={down + 2}
      style={ROW_STYLE}
      className={`flex border-b border-hair-soft ${row.locked ? "bg-sunk" : ""}`}
    >
      <div role="rowheader" className="w-10 shrink-0 px-2 py-1 text-right text-ink-3">
        {down + 1}
      </div>
      {INTAKE_COLUMNS.map((column, at) => {
        const place: Place = { row: row.id, column: at };
        const value = row.cells[column];
        const isActive = active.row === row.id && active.column === at;
        const fault = fact?.faults.find((candidate) => candidate.column === column);
        return (
          <GridCell
            key={column}
            id={cellId(place)}
            column={column}
            at={at}
            row={down + 1}
            value={value}
            look={{
              isActive,
              isSelected: down >= top && down <= bottom && at >= left && at <= right,
              isLocked: row.locked,
              fault: value === "" ? undefined : fault?.sentence,
              writer: fresh.get(cellKey(row.id, column)),
            }}
            typed={isActive ? typing.text : undefined}
            onType={typing.setText}
            onLeave={() => {
              if (typing.text !== undefined) typing.commit();
            }}
            onPress={(extend) => {
              if (typing.text !== undefined) typing.commit();
              onSelect(extend ? anchor : place, place);
            }}
            onDrag={() => {
              if (typing.text === undefined) onSelect(anchor, place);
            }}
            onOpen={() => typing.begin(value)}
          />
        );
      })}
      <ApprovalCell fact={fact} onApprove={onApprove} row={row} down={down} ticked={ticked} />
      <ResultCell fact={fact} ticked={ticked} />
    </div>
  );
}

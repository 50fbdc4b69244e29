import { INTAKE_TITLES, LONGEST_CELL, type INTAKE_COLUMNS } from "@amigo/core/intake/intake";
import { t } from "../texts/intakes";

type Column = (typeof INTAKE_COLUMNS)[number];

const WIDTHS = ["w-[13%]", "w-[22.5%]", "w-[17%]", "w-[7.5%]", "w-[7.5%]"];

/** The width of a column, by its place. */
export function widthOf(at: number): string {
  return WIDTHS[at] ?? "";
}

/** What a cell shows beside its text. */
export interface CellLook {
  isActive: boolean;
  isSelected: boolean;
  isLocked: boolean;
  /** What is wrong with it, in a sentence. */
  fault: string | undefined;
  /** Who has just written it, if somebody else has. */
  writer: string | undefined;
}

/** One cell of the sheet: its text, or the field in which it is being typed. */
export function GridCell({
  id,
  column,
  at,
  row,
  value,
  look,
  typed,
  onType,
  onLeave,
  onPress,
  onDrag,
  onOpen,
}: {
  id: string;
  column: Column;
  at: number;
  /** Its row, counted from 1. */
  row: number;
  value: string;
  look: CellLook;
  /** What is being typed into it; undefined where nothing is. */
  typed: string | undefined;
  onType: (text: string) => void;
  onLeave: () => void;
  onPress: (extend: boolean) => void;
  onDrag: () => void;
  onOpen: () => void;
}) {
  const { fault, writer } = look;
  return (
    <div
      id={id}
      role="gridcell"
      aria-colindex={at + 2}
      aria-selected={look.isSelected}
      aria-readonly={look.isLocked}
      aria-invalid={fault !== undefined}
      title={fault ?? (writer === undefined ? undefined : t("intakes.justWrittenBy", { writer }))}
      onMouseDown={(event) => {
        if (typed === undefined) onPress(event.shiftKey);
      }}
      onMouseEnter={(event) => {
        if (event.buttons === 1) onDrag();
      }}
      onDoubleClick={onOpen}
      onPointerUp={(event) => {
        // A touch has no keys to start with, so a tap opens the cell.
        if (event.pointerType === "touch" && !look.isLocked) onOpen();
      }}
      className={`relative ${widthOf(at)} h-[30px] shrink-0 select-none border-l border-hair-soft ${outlineOf(look)} ${groundOf(look)} ${look.isLocked ? "text-ink-2" : ""}`}
    >
      {typed === undefined ? (
        <div className={`truncate px-2 py-[5px] ${column === "address" ? "mono" : ""}`}>
          <span className="sr-only">
            {t("intakes.rowEmpty", {
              column: INTAKE_TITLES[column],
              row,
              isEmpty: String(value === ""),
            })}
          </span>
          {fault !== undefined && <b className="text-marigold-ink">! </b>}
          {value}
          {fault !== undefined && <span className="sr-only"> {fault}</span>}
        </div>
      ) : (
        <input
          autoFocus
          aria-label={t("intakes.row2", { column: INTAKE_TITLES[column], row })}
          value={typed}
          maxLength={LONGEST_CELL}
          onChange={(event) => onType(event.target.value)}
          onBlur={onLeave}
          list={column === "to" ? "intake-targets" : undefined}
          spellCheck={false}
          autoComplete="off"
          className={`h-full w-full bg-panel px-2 outline-none ${column === "address" ? "mono" : ""}`}
        />
      )}
    </div>
  );
}

function outlineOf({ isActive, fault }: CellLook): string {
  if (isActive) return "outline-2 outline-offset-[-2px] outline-petrol";
  return fault === undefined ? "" : "outline outline-offset-[-1px] outline-marigold";
}

function groundOf({ writer, fault, isSelected }: CellLook): string {
  if (writer !== undefined) return "bg-leaf-soft";
  if (fault !== undefined) return "bg-marigold-soft";
  return isSelected ? "bg-petrol-soft" : "";
}

/** A cell of the board: the line that it stands in, and its column, counted from 0. */
export interface CellPlace {
  line: number;
  column: number;
}

/** How many lines and columns a board has, and where it has a cell to go to. */
export interface GridSize {
  lines: number;
  columns: number;
  hasCell: (place: CellPlace) => boolean;
}

/** How many lines and columns each key moves on. */
const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  PageDown: [8, 0],
  PageUp: [-8, 0],
  Home: [Number.NEGATIVE_INFINITY, 0],
  End: [Number.POSITIVE_INFINITY, 0],
};

/** Whether a key moves from cell to cell. */
export function isMove(key: string): boolean {
  return Object.hasOwn(STEPS, key);
}

/** Returns the cell to which a key leads: the next one in its direction. Undefined where there is none. */
export function cellAfter(key: string, from: CellPlace, size: GridSize): CellPlace | undefined {
  const [down, right] = STEPS[key] ?? [0, 0];
  return right === 0
    ? cellInColumn(from.line + down, Math.sign(down), from.column, size)
    : cellInLine(from, right, size);
}

function cellInLine(
  { line, column }: CellPlace,
  step: number,
  { columns, hasCell }: GridSize,
): CellPlace | undefined {
  for (let at = column + step; at >= 0 && at < columns; at += step)
    if (hasCell({ line, column: at })) return { line, column: at };
  return undefined;
}

/** The next line that has a cell there; beyond the last one, the last one itself. */
function cellInColumn(
  to: number,
  step: number,
  column: number,
  { lines, hasCell }: GridSize,
): CellPlace | undefined {
  const start = Math.min(Math.max(to, 0), lines - 1);
  for (const turn of [step, -step])
    for (let line = start; line >= 0 && line < lines && turn !== 0; line += turn)
      if (hasCell({ line, column })) return { line, column };
  return undefined;
}

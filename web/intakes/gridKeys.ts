/** What a key does in a grid in which nothing is being typed. Rows and columns are counted from the active cell. */
export type GridAction =
  | { does: "move"; rows: number; columns: number; extend: boolean }
  | { does: "undo" | "redo" | "fill down" | "select all" | "edit" | "clear" | "approve" }
  | { does: "type"; text: string };

interface Key {
  key: string;
  ctrlKey: boolean;
  metaKey: boolean;
  shiftKey: boolean;
}

/** A move that reaches the last row or column from anywhere. */
const PAGE = 15;
const ALL_COLUMNS = 9;

/** Returns what a key does, or undefined where the grid leaves it to the browser. */
export function gridAction(pressed: Key, rows: number): GridAction | undefined {
  const { key, shiftKey } = pressed;
  const command = pressed.ctrlKey || pressed.metaKey;
  const move = moveBy(key, command, rows);
  if (move !== undefined) return { does: "move", ...move, extend: shiftKey };
  if (command) return commandOf(key.toLowerCase(), shiftKey);
  if (key === "Enter" || key === "F2") return { does: "edit" };
  if (key === "Delete" || key === "Backspace") return { does: "clear" };
  if (key === " ") return { does: "approve" };
  return key.length === 1 ? { does: "type", text: key } : undefined;
}

function commandOf(key: string, shiftKey: boolean): GridAction | undefined {
  switch (key) {
    case "z":
      return { does: shiftKey ? "redo" : "undo" };
    case "y":
      return { does: "redo" };
    case "d":
      return { does: "fill down" };
    case "a":
      return { does: "select all" };
    default:
      return undefined;
  }
}

function moveBy(
  key: string,
  command: boolean,
  rows: number,
): { rows: number; columns: number } | undefined {
  const down = command ? rows : 1;
  const across = command ? ALL_COLUMNS : 1;
  switch (key) {
    case "ArrowDown":
      return { rows: down, columns: 0 };
    case "ArrowUp":
      return { rows: -down, columns: 0 };
    case "ArrowRight":
      return { rows: 0, columns: across };
    case "ArrowLeft":
      return { rows: 0, columns: -across };
    case "PageDown":
      return { rows: PAGE, columns: 0 };
    case "PageUp":
      return { rows: -PAGE, columns: 0 };
    case "Home":
      return { rows: command ? -rows : 0, columns: -ALL_COLUMNS };
    case "End":
      return { rows: command ? rows : 0, columns: ALL_COLUMNS };
    default:
      return undefined;
  }
}

import { fold } from "../../text/fold";
import { columnLetters, type Sheet } from "../sheet";

/** The titles of both tables must be within this many rows from the top. */
const SEARCHED = 30;
const LEAST_COLUMNS = 2;

/**
 * Takes a sheet apart whose tables stand side by side: a blank column between them, and the same titles again. Each becomes
 * a sheet of its own, its cells where they were. Any other sheet stays as it is.
 */
export function apartFromNeighbours(sheet: Sheet): Sheet[] {
  const width = sheet.rows.reduce((most, row) => Math.max(most, row.length), 0);
  if (width < LEAST_COLUMNS * 2 + 1) return [sheet];
  for (let row = 0; row < Math.min(SEARCHED, sheet.rows.length); row++) {
    const bands = bandsOf(sheet.rows[row] ?? []);
    const [first] = bands;
    if (bands.length < 2 || first === undefined || first.titles.length < LEAST_COLUMNS) continue;
    const titles = first.titles.join("|");
    if (!bands.every((band) => band.titles.join("|") === titles)) continue;
    const below = sheet.rows.slice(row);
    const isApart = bands
      .slice(1)
      .every(({ from }) => below.every((cells) => (cells[from - 1] ?? "").trim() === ""));
    // A blank column between "Name, Email" and "Name, Email" of one child's two parents is none between two tables.
    const isFull = bands.every(
      ({ from }) => below.filter((cells) => (cells[from] ?? "").trim() !== "").length > 1,
    );
    if (!isApart || !isFull) continue;
    return bands.map(({ from }, at) => {
      const start = at === 0 ? 0 : from;
      const end = (bands[at + 1]?.from ?? width + 1) - 1;
      return {
        ...sheet,
        apart: true,
        name: `${sheet.name.slice(0, 22)} (${columnLetters(start)}–${columnLetters(Math.min(end, width) - 1)})`,
        rows: sheet.rows.map((cells) =>
          cells.slice(0, end).map((cell, column) => (column < start ? "" : cell)),
        ),
        joined: sheet.joined.filter(
          ({ firstColumn, lastColumn }) => firstColumn >= start && lastColumn < end,
        ),
      };
    });
  }
  return [sheet];
}

/** The runs of filled cells in a row, with a blank one between each two. */
function bandsOf(cells: readonly string[]): { from: number; titles: string[] }[] {
  const bands: { from: number; titles: string[] }[] = [];
  let open = false;
  cells.forEach((cell, column) => {
    const title = fold(cell);
    if (title === "") open = false;
    else if (open) bands[bands.length - 1]?.titles.push(title);
    else {
      bands.push({ from: column, titles: [title] });
      open = true;
    }
  });
  return bands;
}

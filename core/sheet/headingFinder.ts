import type { MeaningId } from "./meanings/meaning";
import { plainClassName } from "./shapes/className";
import type { Table } from "./table";

/** What the heading above a row, and the sheet as a whole, say of it. */
export function headingFinder({
  headings,
  everyRow,
}: Table): (row: number) => Partial<Record<MeaningId, string>> {
  const fixed: Partial<Record<MeaningId, string>> =
    everyRow === undefined ? {} : { [everyRow.meaning]: everyRow.value };
  if (headings === undefined) return () => fixed;
  const lines = [...headings.lines].sort((a, b) => a.row - b.row);
  return (row) => {
    // The last line above the row, found by halves.
    let low = 0;
    let high = lines.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((lines[middle]?.row ?? row) < row) low = middle + 1;
      else high = middle;
    }
    const text = lines[low - 1]?.text;
    return text === undefined ? fixed : { ...fixed, [headings.meaning]: plainClassName(text) };
  };
}

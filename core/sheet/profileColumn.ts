import { tidyLine } from "../text/tidy";
import type { ColumnProfile } from "./meanings/meaning";

/** How many filled cells are looked at; more would tell nothing new. */
const SAMPLE = 400;
const FEW = 6;
/** A value stands with many rows from this many on, taken over all values of a column. */
const MANY = 6;

/** Describes what the cells of a column look like. `cells` are its data cells, blanks included. */
export function profileColumn(cells: readonly string[]): ColumnProfile {
  const filled = cells.map(tidyLine).filter((cell) => cell !== "");
  const step = Math.max(1, Math.floor(filled.length / SAMPLE));
  const sample = filled.filter((_, index) => index % step === 0);
  const distinct = new Set(sample).size;
  const share = (test: (cell: string) => boolean): number =>
    sample.length === 0 ? 0 : sample.filter(test).length / sample.length;
  return {
    filled: cells.length === 0 ? 0 : filled.length / cells.length,
    address: share((cell) => /\S@|@\S/.test(cell)),
    number: share((cell) => /^\d+([.,]\d+)?$/.test(cell)),
    smallNumber: share((cell) => /^\d{1,2}$/.test(cell)),
    code: share((cell) => /^[\p{L}]{0,6}[-/. ]?\d+[\p{L}\d-]*$/u.test(cell)),
    commaName: share((cell) => /^[\p{L}' -]+, ?[\p{L}' .?-]+$/u.test(cell)),
    words: share((cell) => /\p{L}/u.test(cell) && !/[@\d]/.test(cell)),
    letters: share((cell) => /\p{L}/u.test(cell) && !cell.includes("@")),
    date: share((cell) => /^\d{4}-\d\d-\d\d|^\d{1,2}[./]\d{1,2}[./]\d{2,4}/.test(cell)),
    season: share((cell) => /^(19|20)\d\d ?[-/–] ?((19|20)\d\d|\d\d)$/.test(cell)),
    repeated: sample.length >= MANY && distinct * MANY <= sample.length,
    // A handful of cells says nothing about how varied a column is.
    distinct: sample.length < FEW ? 0.25 : distinct / sample.length,
    wordsEach:
      sample.length === 0
        ? 0
        : sample.reduce((sum, cell) => sum + cell.split(" ").length, 0) / sample.length,
  };
}

import { readMoment, type DateOrder } from "./readMoment";

/** How a column writes its dates; `unsure` where its cells fit both orders equally well. */
export type ColumnOrder = DateOrder | "unsure";

const NUMERIC = /^\D{0,5}(\d{1,2})([/.-]) ?(\d{1,2})(?:[/.-]|\s|$)/;
const SAMPLE = 5000;

/**
 * Tells from all cells of a column whether its dates have the day first or the month. A number over 12 tells it; so do
 * dots, which stand after a day; else the cells of answers come in the order of time. What contradicts itself, or says
 * nothing either way, is `unsure`. A column without such dates is read day first, for it makes no difference.
 */
export function dateOrder(cells: readonly string[]): ColumnOrder {
  const seen = countOrders(cells);
  if (seen.dayFirst > 0 || seen.monthFirst > 0) {
    if (seen.dayFirst > 0 && seen.monthFirst > 0) return "unsure";
    return seen.dayFirst > 0 ? "day first" : "month first";
  }
  if (seen.differing === 0 || seen.dots === seen.dates.length) return "day first";
  if (seen.dates.length < 3) return "unsure";
  const asDays = stepsBack(seen.dates, "day first");
  const asMonths = stepsBack(seen.dates, "month first");
  if (asDays === 0 && asMonths > 0) return "day first";
  return asMonths === 0 && asDays > 0 ? "month first" : "unsure";
}

/** Counts the dates that can be read in one order only, those that differ by order, and those with dots. */
function countOrders(cells: readonly string[]) {
  const seen = { dayFirst: 0, monthFirst: 0, differing: 0, dots: 0, dates: [] as string[] };
  for (const cell of cells.slice(0, SAMPLE)) {
    const text = cell.trim();
    const found = NUMERIC.exec(text);
    if (found === null || /^\d{4}/.test(text)) continue;
    const [first, second] = [Number(found[1]), Number(found[3])];
    if (first > 12 && second <= 12) seen.dayFirst++;
    else if (second > 12 && first <= 12) seen.monthFirst++;
    else if (first !== second) seen.differing++;
    if (found[2] === ".") seen.dots++;
    seen.dates.push(text);
  }
  return seen;
}

/** How often a date lies before the one above it, which answers as they come in never do. */
function stepsBack(cells: readonly string[], order: DateOrder): number {
  const instants = cells.flatMap(
    (cell) => readMoment(cell, { order, timeZone: "UTC", firstYear: 2000 }) ?? [],
  );
  return instants.filter((instant, at) => at > 0 && instant < (instants[at - 1] ?? "")).length;
}

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
  let dayFirst = 0;
  let monthFirst = 0;
  let differing = 0;
  let dots = 0;
  const open: string[] = [];
  for (const cell of cells.slice(0, SAMPLE)) {
    const text = cell.trim();
    const found = NUMERIC.exec(text);
    if (found === null || /^\d{4}/.test(text)) continue;
    const [first, second] = [Number(found[1]), Number(found[3])];
    if (first > 12 && second <= 12) dayFirst++;
    else if (second > 12 && first <= 12) monthFirst++;
    else if (first !== second) differing++;
    if (found[2] === ".") dots++;
    open.push(text);
  }
  if (dayFirst > 0 && monthFirst === 0) return "day first";
  if (monthFirst > 0 && dayFirst === 0) return "month first";
  if (dayFirst > 0 && monthFirst > 0) return "unsure";
  if (differing === 0 || dots === open.length) return "day first";
  const [asDays, asMonths] = (["day first", "month first"] as const).map((order) =>
    stepsBack(open, order),
  );
  if (open.length < 3 || asDays === undefined || asMonths === undefined) return "unsure";
  if (asDays === 0 && asMonths > 0) return "day first";
  if (asMonths === 0 && asDays > 0) return "month first";
  return "unsure";
}

/** How often a date lies before the one above it, which answers as they come in never do. */
function stepsBack(cells: readonly string[], order: DateOrder): number {
  const instants = cells.flatMap(
    (cell) => readMoment(cell, { order, timeZone: "UTC", firstYear: 2000 }) ?? [],
  );
  return instants.filter((instant, at) => at > 0 && instant < (instants[at - 1] ?? "")).length;
}

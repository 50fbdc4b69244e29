/** Where a row is: `sheet` counts from 0, in the order of the plan; `row` from 1, as the spreadsheet shows it. */
export interface RowPlace {
  reading: string;
  sheet: number;
  row: number;
}

/** A row of an import, and where it is stored: with the import itself, or with a later one in which it stood the same. */
export interface StoredRow {
  sheet: number;
  row: number;
  stored: RowPlace;
}

/** What an import shares with the next one of its source. */
export interface SharedPart {
  reading: string;
  next: string;
  /** Runs of rows, five numbers each: sheet, first row, how many, and their sheet and first row in the next import. */
  runs: readonly number[];
}

/** Some of the rows of one sheet: from the first, until before the last. */
export interface RowRange {
  sheet: number;
  from: number;
  until: number;
}

/** Rows that follow one another in an import, and also do in the next one. */
interface Run {
  sheet: number;
  row: number;
  count: number;
  nextSheet: number;
  nextRow: number;
}

const NUMBERS_IN_RUN = 5;

/** Tells where the rows of older imports are stored: a row that the next import of the source has too is stored only there. */
export class SharedRows {
  private readonly parts = new Map<string, { next: string; runs: readonly Run[] }>();

  constructor(parts: Iterable<SharedPart>) {
    for (const { reading, next, runs } of parts)
      this.parts.set(reading, { next, runs: unpackRuns(runs) });
  }

  /** Returns all imports with which rows of these may be stored, these included. */
  get readings(): ReadonlySet<string> {
    return new Set([...this.parts].flatMap(([reading, { next }]) => [reading, next]));
  }

  /** Returns where a row is stored. */
  placeOf(place: RowPlace): RowPlace {
    let stored = place;
    for (const later of this.pathOf(place)) stored = later;
    return stored;
  }

  /** Returns where a row stands in its own import and in each later one up to that with which it is stored. */
  *pathOf(place: RowPlace): Generator<RowPlace, void> {
    let at = place;
    for (;;) {
      yield at;
      const part = this.parts.get(at.reading);
      const run = part === undefined ? undefined : runWith(part.runs, at);
      if (part === undefined || run === undefined) return;
      at = { reading: part.next, sheet: run.nextSheet, row: run.nextRow + at.row - run.row };
    }
  }

  /** Lists the rows of an import, or of a part of it, that aren't stored with itself. */
  listShared(reading: string, range?: RowRange): StoredRow[] {
    const found: StoredRow[] = [];
    for (const run of this.parts.get(reading)?.runs ?? []) {
      if (range !== undefined && run.sheet !== range.sheet) continue;
      const from = Math.max(run.row, range?.from ?? run.row);
      const until = Math.min(run.row + run.count, range?.until ?? Infinity);
      for (let row = from; row < until; row++) {
        const place = { reading, sheet: run.sheet, row };
        found.push({ sheet: run.sheet, row, stored: this.placeOf(place) });
      }
    }
    return found;
  }
}

function unpackRuns(numbers: readonly number[]): Run[] {
  const runs: Run[] = [];
  for (let at = 0; at < numbers.length; at += NUMBERS_IN_RUN) {
    const [sheet = 0, row = 0, count = 0, nextSheet = 0, nextRow = 0] = numbers.slice(
      at,
      at + NUMBERS_IN_RUN,
    );
    runs.push({ sheet, row, count, nextSheet, nextRow });
  }
  return runs.sort((a, b) => a.sheet - b.sheet || a.row - b.row);
}

/** Finds the run that holds a row, by halves. */
function runWith(runs: readonly Run[], { sheet, row }: RowPlace): Run | undefined {
  let low = 0;
  let high = runs.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    const run = runs[middle];
    if (run === undefined) return undefined;
    if (run.sheet > sheet || (run.sheet === sheet && run.row > row)) high = middle;
    else if (run.sheet === sheet && row < run.row + run.count) return run;
    else low = middle + 1;
  }
  return undefined;
}

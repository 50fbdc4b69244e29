import { and, asc, eq, gte, inArray, lt, sql } from "drizzle-orm";
import {
  SharedRows,
  type RowPlace,
  type RowRange,
  type SharedPart,
} from "@amigo/core/sheet/sharedRows";
import type { Queries } from "../db/connect";
import { readingFault, readingRow } from "../db/schema/sources";

/** A row of an import as it was read. */
export interface ReadRow {
  sheet: number;
  row: number;
  cells: string[];
}

/** Loads where rows of some imports are stored, or of all imports. */
export async function loadShared(
  db: Queries,
  readings: readonly string[] | "all",
): Promise<SharedRows> {
  const { rows } = await db.execute<SharedPart & Record<string, unknown>>(
    readings === "all"
      ? sql`select reading_id as reading, next_id as next, runs from reading_shared`
      : sql`
    with recursive chain (id) as (
      select value::uuid from json_array_elements_text(${JSON.stringify(readings)}::json)
      union
      select reading_shared.next_id from reading_shared join chain on chain.id = reading_shared.reading_id)
    select reading_id as reading, next_id as next, runs from reading_shared join chain on chain.id = reading_shared.reading_id`,
  );
  return new SharedRows(rows);
}

/** Lists the rows of an import, or some of them, in their order. Rows that hold nothing are left out. */
export async function listReadRows(
  db: Queries,
  reading: string,
  range?: RowRange,
): Promise<ReadRow[]> {
  const rows = await db
    .select({ sheet: readingRow.sheet, row: readingRow.row, cells: readingRow.cells })
    .from(readingRow)
    .where(
      and(
        eq(readingRow.readingId, reading),
        range &&
          and(
            eq(readingRow.sheet, range.sheet),
            gte(readingRow.row, range.from),
            lt(readingRow.row, range.until),
          ),
      ),
    )
    .orderBy(asc(readingRow.sheet), asc(readingRow.row));
  const shared = (await loadShared(db, [reading])).listShared(reading, range);
  if (shared.length === 0) return rows;
  const stored = await listStored(
    db,
    shared.map((each) => each.stored),
  );
  for (const [at, { sheet, row }] of shared.entries()) {
    const cells = stored.get(at);
    if (cells !== undefined) rows.push({ sheet, row, cells });
  }
  return rows.sort(inOrder);
}

/** Lists the cells of stored rows, by their turn among the places that are asked for. */
async function listStored(
  db: Queries,
  places: readonly RowPlace[],
): Promise<ReadonlyMap<number, string[]>> {
  const { rows } = await db.execute<{ turn: number; cells: string[] }>(sql`
    select place.turn::int as turn, reading_row.cells
    from rows from (
      unnest(${sql.param(places.map(({ reading }) => reading))}::uuid[]),
      unnest(${sql.param(places.map(({ sheet }) => sheet))}::int[]),
      unnest(${sql.param(places.map(({ row }) => row))}::int[])
    ) with ordinality as place (reading, sheet, "row", turn)
    join reading_row on reading_row.reading_id = place.reading and reading_row.sheet = place.sheet and reading_row."row" = place."row"`);
  return new Map(rows.map(({ turn, cells }) => [turn - 1, cells]));
}

const faultColumns = {
  sheet: readingFault.sheet,
  row: readingFault.row,
  column: readingFault.column,
  written: readingFault.written,
  fault: readingFault.fault,
  answer: readingFault.answer,
  proposal: readingFault.proposal,
  sentence: readingFault.sentence,
  why: readingFault.why,
  correction: readingFault.correctionId,
};

/**
 * Lists the faulty cells of an import in the order of its rows, at most some. A shared row whose faults aren't stored with the import
 * has those of the next one that has some.
 */
export async function listFaults(db: Queries, reading: string, most = 5000) {
  const shared = await loadShared(db, [reading]);
  const stored = await db
    .select({ reading: readingFault.readingId, ...faultColumns })
    .from(readingFault)
    .where(inArray(readingFault.readingId, [reading, ...shared.readings]))
    .orderBy(asc(readingFault.sheet), asc(readingFault.row), asc(readingFault.column));
  const byPlace = new Map<string, (typeof stored)[number][]>();
  for (const fault of stored) {
    const key = keyOf(fault);
    const here = byPlace.get(key);
    if (here === undefined) byPlace.set(key, [fault]);
    else here.push(fault);
  }
  const inherited = shared.listShared(reading).flatMap(({ sheet, row }) => {
    for (const place of shared.pathOf({ reading, sheet, row })) {
      const found = byPlace.get(keyOf(place));
      if (found !== undefined)
        return place.reading === reading ? [] : found.map((fault) => ({ ...fault, sheet, row }));
    }
    return [];
  });
  return [...stored.filter((fault) => fault.reading === reading), ...inherited]
    .sort(inOrder)
    .slice(0, most)
    .map(({ reading: _, ...fault }) => fault);
}

function keyOf({ reading, sheet, row }: RowPlace): string {
  return `${reading} ${sheet} ${row}`;
}

function inOrder(a: { sheet: number; row: number }, b: { sheet: number; row: number }): number {
  return a.sheet - b.sheet || a.row - b.row;
}

import { sql, type SQL } from "drizzle-orm";
import type { Queries } from "../db/connect";

/** An import, and the next one of its source. */
export interface InTurn {
  reading: string;
  next: string;
}

/**
 * Finds the oldest import that has all of its rows with itself, has the same source's next one to share them with, and isn't one of
 * the two newest: the faults of the newest are found again when somebody corrects a cell.
 */
export async function findNextToShare(tx: Queries): Promise<InTurn | undefined> {
  const { rows } = await tx.execute<{ reading: string; next: string }>(sql`
    select reading.id as reading, later.id as next
    from reading
    join lateral (
      select id from reading as later where later.source_id = reading.source_id and later.number > reading.number
      order by later.number limit 1) as later on true
    where reading.number < (select max(number) from reading as newest where newest.source_id = reading.source_id) - 1
      and not exists (select from reading_shared where reading_id in (reading.id, later.id))
      and exists (select from reading_row where reading_id = reading.id)
    order by reading.read_at, reading.number
    limit 1`);
  return rows[0];
}

/** The rows of an import with the faults of each, and which of several that are the same each is. */
function countedRows(reading: string): SQL {
  return sql`
    select sheet, "row", cells, faults, row_number() over (partition by cells order by sheet, "row") as turn
    from (
      select reading_row.sheet, reading_row."row", reading_row.cells, coalesce(found.faults, '') as faults
      from reading_row
      left join (
        select sheet, "row", jsonb_agg(jsonb_build_array("column", written, fault, answer, proposal, sentence, why, correction_id)
          order by "column", written, fault, sentence)::text as faults
        from reading_fault where reading_id = ${reading} group by sheet, "row") as found using (sheet, "row")
      where reading_row.reading_id = ${reading}) as counted`;
}

/**
 * Pairs the rows of an import with those of the next one that are the same, in a temporary table. Faults whose words differ, as they
 * count something in the whole sheet, stay with the import; where it has none, the next one must have none either.
 */
export async function pairRows(tx: Queries, { reading, next }: InTurn): Promise<void> {
  await tx.execute(sql`
    create temporary table same_row on commit drop as
    select was.sheet, was."row", is_now.sheet as next_sheet, is_now."row" as next_row, was.faults = is_now.faults as same_faults
    from (${countedRows(reading)}) as was
    join (${countedRows(next)}) as is_now using (cells, turn)
    where was.faults <> '' or is_now.faults = ''`);
}

/** Stores which rows were paired, as runs, and how many faults the import has. */
export async function storeShared(tx: Queries, { reading, next }: InTurn): Promise<void> {
  await tx.execute(sql`
    with numbered as (
      select *, "row" - row_number() over (partition by sheet, next_sheet, "row" - next_row order by "row") as run from same_row),
    runs as (
      select sheet, min("row") as "row", count(*)::int as count, next_sheet, min(next_row) as next_row
      from numbered group by sheet, next_sheet, "row" - next_row, run),
    faults as (
      select count(*)::int as all, (count(*) filter (where answer <> 'clean' and correction_id is null))::int as to_decide
      from reading_fault where reading_id = ${reading})
    insert into reading_shared (reading_id, next_id, runs, faults, to_decide)
    select ${reading}, ${next},
      coalesce((select array_agg(number order by runs.sheet, runs."row", place)
        from runs cross join lateral unnest(array[sheet, "row", count, next_sheet, next_row]) with ordinality as parts (number, place)), '{}'),
      faults.all, faults.to_decide
    from faults`);
}

/** Removes the paired rows, those of their faults that are the same, and the file. */
export async function removeShared(tx: Queries, reading: string): Promise<void> {
  await tx.execute(sql`
    delete from reading_row using same_row
    where reading_id = ${reading} and reading_row.sheet = same_row.sheet and reading_row."row" = same_row."row"`);
  await tx.execute(sql`
    delete from reading_fault using same_row
    where same_faults and reading_id = ${reading} and reading_fault.sheet = same_row.sheet and reading_fault."row" = same_row."row"`);
  await tx.execute(sql`drop table same_row`);
  await tx.execute(sql`update reading set file = ''::bytea where id = ${reading}`);
}

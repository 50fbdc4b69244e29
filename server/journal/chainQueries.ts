import { sql } from "drizzle-orm";
import type { Queries } from "../db/connect";

/** A link of the journal's chain, with what its entry says now. */
export interface StoredLink {
  place: number;
  entryId: number;
  /** When the entry was made, in microseconds since 1970. */
  atMicros: number;
  isChange: boolean;
  content: Buffer;
  hash: Buffer;
  /** Whether no later link is about the same entry. */
  isLast: boolean;
  /** The hash of what the entry says now; null where it isn't there any more. */
  now: Buffer | null;
}

/** Lists links after a place, in their order. */
export async function listLinks(db: Queries, after: number, most: number): Promise<StoredLink[]> {
  const { rows } = await db.execute<Record<string, unknown>>(sql`
    select link.place::float8 as place, link.entry_id::float8 as "entryId",
           (extract(epoch from link.at) * 1000000)::float8 as "atMicros", link.is_change as "isChange", link.content, link.hash,
           not exists (select from journal_link as later where later.entry_id = link.entry_id and later.place > link.place) as "isLast",
           case when journal.id is not null then journal_content(journal) end as now
    from journal_link as link left join journal on journal.id = link.entry_id
    where link.place > ${after} order by link.place limit ${most}`);
  return rows as unknown as StoredLink[];
}

/** Lists entries that no link is about. */
export async function listUnlinked(db: Queries): Promise<number[]> {
  const { rows } = await db.execute<{ id: number }>(sql`
    select id::float8 as id from journal where not exists (select from journal_link where entry_id = journal.id) order by id limit 20`);
  return rows.map(({ id }) => id);
}

/** Returns when the oldest entry was made, in microseconds since 1970, or 0. */
export async function findOldest(db: Queries): Promise<number> {
  const { rows } = await db.execute<{ at: number | null }>(
    sql`select (extract(epoch from min(at)) * 1000000)::float8 as at from journal`,
  );
  return rows[0]?.at ?? 0;
}

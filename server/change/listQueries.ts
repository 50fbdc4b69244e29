import { eq, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { cohort, list, listAddress } from "../db/schema/lists";

/** Lists the classes and so on of a season. */
export function listCohortIds(db: Queries, seasonId: number) {
  return db
    .select({ id: cohort.id, key: cohort.key })
    .from(cohort)
    .where(eq(cohort.seasonId, seasonId));
}

/** Closes the open lists of a season that are no longer wanted. */
export function closeOtherLists(db: Queries, seasonId: number, keys: string) {
  return db.execute(
    sql`update list set closed_at = now() where season_id = ${seasonId} and closed_at is null and not exists (select 1 from json_array_elements_text(${keys}::json) as wanted(key) where wanted.key = list.key)`,
  );
}

/** Lists the lists of a season by key. */
export function listListIds(db: Queries, seasonId: number) {
  return db.select({ id: list.id, key: list.key }).from(list).where(eq(list.seasonId, seasonId));
}

/** Lists the names that lists have or had and that are not free. */
export function listHeldNames(db: Queries) {
  return db
    .select()
    .from(listAddress)
    .where(sql`not ${listAddress.released}`);
}

/** Makes names of lists old names that ran out yesterday. */
export async function makeAliases(db: Queries, day: string, ids: number[]): Promise<void> {
  await db.execute(
    sql`update list_address set kind = 'alias', until = (${day}::date - 1) from json_array_elements_text(${JSON.stringify(ids)}::json) as gone(id) where list_address.id = gone.id::int`,
  );
}

/** Frees old names that other lists take. */
export async function releaseTaken(db: Queries, names: string): Promise<void> {
  await db.execute(
    sql`update list_address set released = true from json_to_recordset(${names}::json) as new(name text, list_id uuid) where list_address.name = new.name and not list_address.released and list_address.list_id <> new.list_id`,
  );
}

/** Stores the names of lists. */
export async function storeNames(db: Queries, names: string): Promise<void> {
  await db.execute(sql`
    insert into list_address (name, kind, until, list_id) select name, kind, until, list_id from json_to_recordset(${names}::json) as new(name text, kind text, until date, list_id uuid)
    on conflict (name) where not released do update set kind = excluded.kind, until = excluded.until`);
}

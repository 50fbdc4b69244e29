import { sql, and, eq, inArray, isNull } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { site } from "../db/schema/house";
import { cohort, list, listRole } from "../db/schema/lists";

/** Makes a site. */
export async function storeSite(db: Queries, name: string, code: string) {
  const [found] = await db.insert(site).values({ name, code }).returning();
  return found;
}

/** Stores classes and so on, new or changed. */
export async function storeCohortRows(
  db: Queries,
  cohorts: (typeof cohort.$inferInsert)[],
): Promise<void> {
  await db
    .insert(cohort)
    .values(cohorts)
    .onConflictDoUpdate({
      target: [cohort.seasonId, cohort.key],
      set: {
        name: sql`excluded.name`,
        siteId: sql`excluded.site_id`,
        coach: sql`excluded.coach`,
        goneAt: sql`null`,
      },
    });
}

/** Stores that classes and so on are no longer there. */
export async function markCohortsGone(
  db: Queries,
  seasonId: number,
  keys: string[],
): Promise<void> {
  await db
    .update(cohort)
    .set({ goneAt: sql`now()` })
    .where(and(eq(cohort.seasonId, seasonId), inArray(cohort.key, keys)));
}

/** Lists the open lists of a season by key. */
export function listOpenKeys(db: Queries, seasonId: number) {
  return db
    .select({ id: list.id, key: list.key })
    .from(list)
    .where(and(eq(list.seasonId, seasonId), isNull(list.closedAt)));
}

/** Removes who leads or helps a list no longer. */
export async function removeOtherRoles(
  db: Queries,
  seasonId: number,
  wanted: string,
): Promise<void> {
  await db.execute(sql`
    delete from list_role using list where list.id = list_role.list_id and list.season_id = ${seasonId} and list.closed_at is null
      and not exists (select 1 from json_to_recordset(${wanted}::json) as new(l uuid, a uuid, r text) where new.l = list_role.list_id and new.a = list_role.account_id and new.r = list_role.role)`);
}

/** Stores who leads and helps lists. */
export async function storeRoles(
  db: Queries,
  roles: readonly { l: string; a: string; r: "lead" | "helper" }[],
): Promise<void> {
  await db
    .insert(listRole)
    .values(roles.map(({ l, a, r }) => ({ listId: l, accountId: a, role: r })))
    .onConflictDoNothing();
}

import { and, eq, inArray } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { site } from "../db/schema/house";
import { list, listRole } from "../db/schema/lists";

/** Lists some lists with the role that an account has on them. */
export function listRolesAmong(db: Queries, accountId: string, seasonId: number, keys: string[]) {
  return db
    .select({ key: list.key, siteId: list.siteId, role: listRole.role })
    .from(list)
    .leftJoin(listRole, and(eq(listRole.listId, list.id), eq(listRole.accountId, accountId)))
    .where(and(eq(list.seasonId, seasonId), inArray(list.key, keys)));
}

/** Returns the site with an id. */
export function findSite(db: Queries, id: number) {
  return db
    .select({ name: site.name })
    .from(site)
    .where(and(eq(site.id, id)));
}

import { and, eq, or, sql } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { cohort, house, list, season, site } from "../db/schema";
import { notFound } from "../http/fault";
import { foundByStaff, listsOf } from "./scope";

/**
 * A list that somebody may see, with its class and season; else a refusal that does not tell whether it exists.
 *
 * @param orFindable whether it is enough that the whole staff may find it, as it is for writing to it
 */
export async function loadList(db: Queries, id: string, caller: Caller, orFindable = false) {
  const [found] = await db.select({
    id: list.id, key: list.key, name: list.name, title: list.title, description: list.description, short: list.short, preset: list.preset, seasonId: list.seasonId, season: season.label, isCurrent: season.current, overOn: season.overOn,
    cohort: cohort.name, site: site.name, recipeId: list.recipeId, audience: list.audience, kind: list.kind, rules: list.rules, adding: list.adding, siteId: list.siteId, apart: list.apart,
    closedAt: list.closedAt, listDomain: house.listDomain, timeZone: house.timeZone,
  }).from(list).innerJoin(season, eq(season.id, list.seasonId)).leftJoin(cohort, eq(cohort.id, list.cohortId)).innerJoin(house, sql`true`).leftJoin(site, eq(site.id, list.siteId)).where(and(eq(list.id, id), orFindable ? or(listsOf(caller), foundByStaff) : listsOf(caller)));
  if (found === undefined) throw notFound("list");
  return found;
}

export type LoadedList = Awaited<ReturnType<typeof loadList>>;

import { and, eq, sql } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { cohort, house, list, recipe, season, site } from "../db/schema";
import { notFound } from "../http/fault";
import { listsOf } from "./scope";

/** A list that somebody may see, with its class, recipe and season; else a refusal that does not tell whether it exists. */
export async function loadList(db: Queries, id: string, caller: Caller) {
  const [found] = await db.select({
    id: list.id, name: list.name, title: list.title, preset: list.preset, seasonId: list.seasonId, season: season.label, cohort: cohort.name, cohortKey: cohort.key, site: site.name,
    recipeId: list.recipeId, recipe: recipe.name, audience: recipe.audience, listDomain: house.listDomain,
  }).from(list).innerJoin(season, eq(season.id, list.seasonId)).innerJoin(cohort, eq(cohort.id, list.cohortId)).innerJoin(recipe, eq(recipe.id, list.recipeId)).innerJoin(house, sql`true`).leftJoin(site, eq(site.id, cohort.siteId)).where(and(eq(list.id, id), listsOf(caller)));
  if (found === undefined) throw notFound("list");
  return found;
}

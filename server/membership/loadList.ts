import { and, eq, or as either, sql } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { notFound } from "../http/fault";
import { foundByStaff, listsOf, seenByStaff } from "./scope";
import { house, season, site } from "../db/schema/house";
import { cohort, list } from "../db/schema/lists";

/**
 * A list that somebody may see, with its class and season; else a refusal that does not tell whether it exists.
 *
 * @param or what is enough beside that: that the whole staff finds it, as for writing to it, or that it sees who is on it
 */
export async function loadList(db: Queries, id: string, caller: Caller, or?: "found" | "seen") {
  const instead = or === "found" ? foundByStaff : or === "seen" ? seenByStaff : undefined;
  const [found] = await db
    .select({
      id: list.id,
      key: list.key,
      name: list.name,
      title: list.title,
      description: list.description,
      short: list.short,
      preset: list.preset,
      seasonId: list.seasonId,
      season: season.label,
      isCurrent: season.current,
      overOn: season.overOn,
      cohort: cohort.name,
      site: site.name,
      recipeId: list.recipeId,
      audience: list.audience,
      kind: list.kind,
      rules: list.rules,
      adding: list.adding,
      siteId: list.siteId,
      apart: list.apart,
      closedAt: list.closedAt,
      listDomain: house.listDomain,
      timeZone: house.timeZone,
    })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .leftJoin(cohort, eq(cohort.id, list.cohortId))
    .innerJoin(house, sql`true`)
    .leftJoin(site, eq(site.id, list.siteId))
    .where(
      and(
        eq(list.id, id),
        instead === undefined ? listsOf(caller) : either(listsOf(caller), instead),
      ),
    );
  if (found === undefined) throw notFound("list");
  return found;
}

export type LoadedList = Awaited<ReturnType<typeof loadList>>;

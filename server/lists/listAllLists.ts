import { or, eq, isNotNull, desc, and } from "drizzle-orm";
import { type getAllLists } from "@amigo/contract/lists";
import type { Context } from "../context";
import { account } from "../db/schema/accounts";
import { season, site } from "../db/schema/house";
import { list, listRole } from "../db/schema/lists";
import { houseIndex } from "../facts/standing";
import type { Request, Answer } from "../http/handler";
import { memberCount } from "../membership/counts";
import { listsOf } from "../membership/scope";
import { stateOf } from "./stateOf";

export async function listAllLists(
  { db }: Context,
  { query, caller }: Request<typeof getAllLists>,
): Promise<Answer<typeof getAllLists>> {
  const seasons = await db
    .select({ id: season.id, label: season.label, current: season.current })
    .from(season)
    .where(or(eq(season.current, true), isNotNull(season.overOn)))
    .orderBy(desc(season.label));
  const chosen = seasons.find(({ label, current }) =>
    query.season === "" ? current : label === query.season,
  );
  const index = await houseIndex(db, chosen?.id ?? 0);
  const rows = await db
    .select({
      id: list.id,
      key: list.key,
      title: list.title,
      name: list.name,
      site: site.name,
      recipeId: list.recipeId,
      closedAt: list.closedAt,
      apart: list.apart,
      members: memberCount(),
    })
    .from(list)
    .leftJoin(site, eq(site.id, list.siteId))
    .where(and(eq(list.seasonId, chosen?.id ?? 0), listsOf(caller)))
    .orderBy(list.title);
  const leads = await db
    .select({ listId: listRole.listId, name: account.name })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .where(eq(listRole.role, "lead"))
    .orderBy(account.name);
  const byList = new Map<string, string[]>();
  for (const { listId, name } of leads) byList.set(listId, [...(byList.get(listId) ?? []), name]);
  return {
    seasons: seasons.map(({ label, current }) => ({ label, current })),
    lists: rows.map(({ recipeId, closedAt, apart, ...row }) => ({
      ...row,
      site: row.site ?? "",
      recipe: index.recipes.get(recipeId ?? 0)?.name ?? "",
      leads: byList.get(row.id) ?? [],
      state: stateOf({ closedAt, isCurrent: chosen?.current ?? false }),
      apart: apart.length > 0,
    })),
  };
}

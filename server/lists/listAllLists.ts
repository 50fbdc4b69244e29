import { type getAllLists } from "@amigo/contract/lists";
import type { Context } from "../context";
import { houseAtHand } from "../facts/standing";
import type { Request, Answer } from "../http/handler";
import { stateOf } from "./stateOf";
import { listSeasons, listAllOf, listAllLeads } from "./queries";

/** Returns every list that the asker may see, of the current season or of a past one. */
export async function listAllLists(
  { db }: Context,
  { query, caller }: Request<typeof getAllLists>,
): Promise<Answer<typeof getAllLists>> {
  const seasons = await listSeasons(db);
  const chosen = seasons.find(({ label, current }) =>
    query.season === "" ? current : label === query.season,
  );
  const index = await houseAtHand(db, chosen?.id ?? 0);
  const rows = await listAllOf(db, chosen?.id, caller);
  const leads = await listAllLeads(db);
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

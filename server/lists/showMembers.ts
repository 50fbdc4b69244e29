import { orRefuse } from "../http/fault";
import type { getMembers, getKept } from "@amigo/contract/members";
import { instantAtEndOf } from "@amigo/core/schedule/dayIn";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { loadList } from "../membership/loadList";
import { filterMembers, memberTable, keptOn } from "./memberTable";
import { loadHouse } from "../db/houseQueries";

const MEMBERS_AT_ONCE = 200;

/** Returns members of a list with the reason each is on it. */
export async function showMembers(
  { db }: Context,
  { params, query, caller }: Request<typeof getMembers>,
): Promise<Answer<typeof getMembers>> {
  const found = orRefuse(await loadList(db, params.id, caller, "seen"));
  const house = await loadHouse(db);
  const members = filterMembers(
    await memberTable(
      db,
      found,
      query.on === "" ? undefined : instantAtEndOf(query.on, house?.timeZone ?? "UTC"),
    ),
    query.q,
  );
  return {
    total: members.length,
    members: members.slice(query.from, query.from + MEMBERS_AT_ONCE),
  };
}

/** Returns the addresses that are always or never on a list. */
export async function showManualChanges(
  { db }: Context,
  { params, caller }: Request<typeof getKept>,
): Promise<Answer<typeof getKept>> {
  return keptOn(db, orRefuse(await loadList(db, params.id, caller)), undefined);
}

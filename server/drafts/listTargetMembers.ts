import { orRefuse } from "../http/fault";
import type { getTargetMembers } from "@amigo/contract/drafts";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { loadList } from "../membership/loadList";
import { namesBehind } from "../membership/namesBehind";
import { listAddresses } from "../membership/targetQueries";

/** Returns who is on a list that one writes to. */
export async function listTargetMembers(
  { db }: Context,
  { params, caller }: Request<typeof getTargetMembers>,
): Promise<Answer<typeof getTargetMembers>> {
  const found = orRefuse(await loadList(db, params.id, caller, "seen"));
  const rows = await listAddresses(db, found.id);
  const names = await namesBehind(
    db,
    found.seasonId,
    rows.map(({ address }) => address),
  );
  return rows.map(({ address }) => ({ address, name: names.get(address)?.name ?? "" }));
}

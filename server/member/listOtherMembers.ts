import type { getMemberOthers } from "@amigo/contract/member";
import type { Context } from "../context";
import { orRefuse, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { namesBehind } from "../membership/namesBehind";
import { findOwnOpenList } from "./findOwnOpenList";
import { listAddresses } from "../membership/targetQueries";

/** Returns who else is on a list, where its rules let members see each other. */
export async function listOtherMembers(
  { db }: Context,
  { params, member }: Request<typeof getMemberOthers>,
): Promise<Answer<typeof getMemberOthers>> {
  const membership = orRefuse(await findOwnOpenList(db, params.id, member));
  if (membership.rules.roster !== "members" || membership.rules.seen !== "yes")
    throw notFound("list");
  const rows = await listAddresses(db, membership.id);
  const names = await namesBehind(
    db,
    membership.seasonId,
    rows.map(({ address }) => address),
  );
  return rows.map(({ address }) => ({ address, name: names.get(address)?.name ?? "" }));
}

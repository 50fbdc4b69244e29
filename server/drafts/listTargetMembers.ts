import { and, eq, isNull } from "drizzle-orm";
import { type getTargetMembers } from "@amigo/contract/drafts";
import type { Context } from "../context";
import { membership } from "../db/schema/lists";
import type { Request, Answer } from "../http/handler";
import { loadList } from "../membership/loadList";
import { namesBehind } from "../membership/namesBehind";

export async function listTargetMembers(
  { db }: Context,
  { params, caller }: Request<typeof getTargetMembers>,
): Promise<Answer<typeof getTargetMembers>> {
  const found = await loadList(db, params.id, caller, "seen");
  const rows = await db
    .select({ address: membership.address })
    .from(membership)
    .where(and(eq(membership.listId, found.id), isNull(membership.validUntil)))
    .orderBy(membership.address)
    .limit(2000);
  const names = await namesBehind(
    db,
    found.seasonId,
    rows.map(({ address }) => address),
  );
  return rows.map(({ address }) => ({ address, name: names.get(address)?.name ?? "" }));
}

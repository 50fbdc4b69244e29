import { and, eq, isNull } from "drizzle-orm";
import { type getMemberOthers } from "@amigo/contract/member";
import type { Context } from "../context";
import { membership } from "../db/schema/lists";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { namesBehind } from "../membership/namesBehind";
import { listOn } from "./listOn";

export async function listOtherMembers(
  { db }: Context,
  { params, member }: Request<typeof getMemberOthers>,
): Promise<Answer<typeof getMemberOthers>> {
  const own = await listOn(db, params.id, member);
  if (own.rules.roster !== "members" || own.rules.seen !== "yes") throw notFound("list");
  const rows = await db
    .select({ address: membership.address })
    .from(membership)
    .where(and(eq(membership.listId, own.id), isNull(membership.validUntil)))
    .orderBy(membership.address)
    .limit(2000);
  const names = await namesBehind(
    db,
    own.seasonId,
    rows.map(({ address }) => address),
  );
  return rows.map(({ address }) => ({ address, name: names.get(address)?.name ?? "" }));
}

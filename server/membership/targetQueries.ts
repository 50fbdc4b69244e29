import { eq, and, isNull, or } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { season } from "../db/schema/house";
import { list, ownShortName, membership } from "../db/schema/lists";
import { memberCount } from "./counts";
import { listsOf } from "./queries";
import { foundByStaff } from "./scope";

/** Lists the open lists to which somebody may think of writing, with their counts. */
export function listTargets(db: Queries, caller: Caller) {
  return db
    .select({
      id: list.id,
      name: list.name,
      title: list.title,
      short: list.short,
      own: ownShortName.short,
      members: memberCount(),
    })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .leftJoin(
      ownShortName,
      and(eq(ownShortName.listId, list.id), eq(ownShortName.accountId, caller.id)),
    )
    .where(and(isNull(list.closedAt), eq(season.current, true), or(listsOf(caller), foundByStaff)))
    .orderBy(list.title)
    .limit(5000);
}

/** Lists addresses that are on a list now, at most as many as the composer shows. */
export function listAddresses(db: Queries, listId: string) {
  return db
    .select({ address: membership.address })
    .from(membership)
    .where(and(eq(membership.listId, listId), isNull(membership.validUntil)))
    .orderBy(membership.address)
    .limit(2000);
}

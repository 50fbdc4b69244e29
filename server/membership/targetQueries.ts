import { alphabetical } from "../db/alphabetical";
import { eq, and, inArray, isNull, or } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { season } from "../db/schema/house";
import { list, ownShortName, membership } from "../db/schema/lists";
import { memberCount } from "./counts";
import { listsOf } from "./queries";
import { foundByStaff } from "./scope";

/** Lists the open lists to which somebody may think of writing, by what they are called. */
export function listTargets(db: Queries, caller: Caller) {
  return db
    .select({
      id: list.id,
      name: list.name,
      title: list.title,
      short: list.short,
      own: ownShortName.short,
    })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .leftJoin(
      ownShortName,
      and(eq(ownShortName.listId, list.id), eq(ownShortName.accountId, caller.id)),
    )
    .where(and(isNull(list.closedAt), eq(season.current, true), or(listsOf(caller), foundByStaff)))
    .orderBy(alphabetical(list.title));
}

/** Counts the members of some lists, by the ids of the lists. */
export async function countMembers(
  db: Queries,
  ids: readonly string[],
): Promise<ReadonlyMap<string, number>> {
  if (ids.length === 0) return new Map();
  const rows = await db
    .select({ id: list.id, members: memberCount() })
    .from(list)
    .where(inArray(list.id, [...ids]));
  return new Map(rows.map(({ id, members }) => [id, members]));
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

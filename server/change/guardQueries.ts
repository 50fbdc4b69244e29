import { eq, sql, desc } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { season } from "../db/schema/house";
import { membership } from "../db/schema/lists";
import { round } from "../db/schema/rounds";

/** Counts the members of every list. */
export function countMembers(db: Queries) {
  return db
    .select({ listId: membership.listId, count: sql<number>`count(*)`.mapWith(Number) })
    .from(membership)
    .where(sql`${membership.validUntil} is null`)
    .groupBy(membership.listId);
}

/** Returns the imports that the last round carried out was made from. */
export async function findLastReadings(db: Queries) {
  const [found] = await db
    .select({ readings: round.readings })
    .from(round)
    .where(eq(round.state, "done"))
    .orderBy(desc(round.number))
    .limit(1);
  return found;
}

/** Returns a season. */
export async function findSeason(db: Queries, id: number) {
  const [found] = await db.select().from(season).where(eq(season.id, id));
  return found;
}

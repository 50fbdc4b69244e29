import { type SQL, sql } from "drizzle-orm";
import type { KeepTimes } from "@amigo/core/retention/kept";
import type { Queries } from "../db/connect";
import { house } from "../db/schema/house";

/** Stores how long the house keeps things. */
export async function storeKeepTimes(db: Queries, times: KeepTimes): Promise<void> {
  await db.update(house).set({ keep: times });
}

/** Counts what a query finds. */
export function countFound(db: Queries, found: SQL<unknown>) {
  return db.execute<{ count: number }>(
    sql`select count(*)::int as count from (${found}) as over_time`,
  );
}

/** Stores that old things were removed on a day; returns none where another process does it. */
export function markCleaned(db: Queries, day: string) {
  return db
    .update(house)
    .set({ cleanedOn: day })
    .where(sql`${house.cleanedOn} is distinct from ${day}::date`)
    .returning({ id: house.id });
}

import { alphabetical } from "../db/alphabetical";
import { and, eq, lte } from "drizzle-orm";
import { callerColumns, type Caller } from "../callers/caller";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { calendarWatch } from "../db/schema/calendars";

export type WatchRow = typeof calendarWatch.$inferSelect;

/** How soon a web address that is being looked at is due again, should the process end in between, in milliseconds. */
const MEANWHILE = 5 * 60_000;

/** Lists the web addresses with dates that somebody watches. */
export function listWatches(db: Queries, caller: Caller): Promise<WatchRow[]> {
  return db
    .select()
    .from(calendarWatch)
    .where(eq(calendarWatch.accountId, caller.id))
    .orderBy(alphabetical(calendarWatch.name));
}

/** Returns a web address that somebody watches. */
export async function findWatch(
  db: Queries,
  id: string,
  caller: Caller,
): Promise<WatchRow | undefined> {
  const [found] = await db
    .select()
    .from(calendarWatch)
    .where(and(eq(calendarWatch.id, id), eq(calendarWatch.accountId, caller.id)));
  return found;
}

/** Stores a web address that is to be watched; undefined where its owner watches one under the same name. */
export async function storeWatch(
  tx: Queries,
  watch: typeof calendarWatch.$inferInsert,
): Promise<string | undefined> {
  const [stored] = await tx
    .insert(calendarWatch)
    .values(watch)
    .onConflictDoNothing()
    .returning({ id: calendarWatch.id });
  return stored?.id;
}

/** Stores what a look at a watched web address found. */
export async function storeLook(
  db: Queries,
  id: string,
  found: Partial<
    Pick<
      WatchRow,
      "seen" | "waiting" | "lookedAt" | "nextAt" | "fault" | "failures" | "failingSince"
    >
  >,
): Promise<void> {
  await db.update(calendarWatch).set(found).where(eq(calendarWatch.id, id));
}

/** Removes a web address from those that are watched. */
export async function removeWatch(tx: Queries, id: string): Promise<void> {
  await tx.delete(calendarWatch).where(eq(calendarWatch.id, id));
}

/** Takes the watched addresses that are due, each with the account whose it is, so that no two workers look at one. */
export async function claimDueWatches(db: Queries, now: Date) {
  return db
    .update(calendarWatch)
    .set({ nextAt: new Date(now.getTime() + MEANWHILE) })
    .from(account)
    .where(
      and(lte(calendarWatch.nextAt, now), eq(account.id, calendarWatch.accountId), accountInForce),
    )
    .returning({
      watch: calendarWatch,
      owner: callerColumns,
    });
}

import { and, eq, isNull, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { calendarDate, calendarDateList } from "../db/schema/dates";

export type DateRow = typeof calendarDate.$inferSelect;

/** Returns a date by what other programs know it by. */
export async function findDateByUid(db: Queries, uid: string): Promise<DateRow | undefined> {
  const [found] = await db
    .select()
    .from(calendarDate)
    .where(eq(calendarDate.uid, uid))
    .for("update");
  return found;
}

/** Makes others who change a date wait until the transaction ends, and returns it. */
export async function lockDate(db: Queries, id: string) {
  const [found] = await db.select().from(calendarDate).where(eq(calendarDate.id, id)).for("update");
  return found;
}

/** Lists the ids of a date's lists. */
export async function listIdsOf(db: Queries, date: string): Promise<string[]> {
  const rows = await db
    .select({ id: calendarDateList.listId })
    .from(calendarDateList)
    .where(eq(calendarDateList.dateId, date));
  return rows.map(({ id }) => id);
}

/** Stores a date, new or changed, with its lists. */
export async function storeDate(
  tx: Queries,
  row: typeof calendarDate.$inferInsert & { id: string },
  lists: readonly string[],
): Promise<void> {
  const { id: _, ...given } = row;
  const changed = { ...given, changedAt: new Date() };
  await tx
    .insert(calendarDate)
    .values(row)
    .onConflictDoUpdate({ target: calendarDate.id, set: changed });
  await tx.delete(calendarDateList).where(eq(calendarDateList.dateId, row.id));
  await tx.insert(calendarDateList).values(lists.map((listId) => ({ dateId: row.id, listId })));
}

/** Calls a date off; returns whether it wasn't already. */
export async function markCancelled(tx: Queries, id: string, reason: string): Promise<boolean> {
  const rows = await tx
    .update(calendarDate)
    .set({ cancelledAt: sql`now()`, changedAt: sql`now()`, reason })
    .where(and(eq(calendarDate.id, id), isNull(calendarDate.cancelledAt)))
    .returning({ id: calendarDate.id });
  return rows.length > 0;
}

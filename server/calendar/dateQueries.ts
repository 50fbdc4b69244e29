import { and, eq, isNull, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import {
  calendarDate,
  calendarDateList,
  calendarDatePerson,
  calendarDatePrivate,
} from "../db/schema/dates";
import { privateList, privateListPerson } from "../db/schema/lists";

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

/** Whom a date is for beside its lists. */
export interface Others {
  people: readonly string[];
  privateLists: readonly string[];
}

/** Stores whom a date is for beside its lists, in place of those it was for. */
async function storeOthers(
  tx: Queries,
  dateId: string,
  { people, privateLists }: Others,
): Promise<void> {
  await tx.delete(calendarDatePerson).where(eq(calendarDatePerson.dateId, dateId));
  await tx.delete(calendarDatePrivate).where(eq(calendarDatePrivate.dateId, dateId));
  if (people.length > 0)
    await tx
      .insert(calendarDatePerson)
      .values([...new Set(people)].map((person) => ({ dateId, person })));
  if (privateLists.length > 0)
    await tx
      .insert(calendarDatePrivate)
      .values([...new Set(privateLists)].map((privateListId) => ({ dateId, privateListId })));
}

/** Lists whom a date is for beside its lists: people, and private lists with the people on them. */
export async function listOthers(db: Queries, dateId: string) {
  const people = await db
    .select({ person: calendarDatePerson.person })
    .from(calendarDatePerson)
    .where(eq(calendarDatePerson.dateId, dateId));
  const onLists = await db
    .select({
      id: privateList.id,
      name: privateList.name,
      children: privateList.children,
      person: privateListPerson.person,
    })
    .from(calendarDatePrivate)
    .innerJoin(privateList, eq(privateList.id, calendarDatePrivate.privateListId))
    .leftJoin(privateListPerson, eq(privateListPerson.privateListId, privateList.id))
    .where(eq(calendarDatePrivate.dateId, dateId));
  return { people: people.map(({ person }) => person), onLists };
}

/** Stores a date, new or changed, with its lists. */
export async function storeDate(
  tx: Queries,
  row: typeof calendarDate.$inferInsert & { id: string },
  lists: readonly string[],
  others?: Others,
): Promise<void> {
  const { id: _, ...given } = row;
  const changed = { ...given, changedAt: new Date() };
  await tx
    .insert(calendarDate)
    .values(row)
    .onConflictDoUpdate({ target: calendarDate.id, set: changed });
  await tx.delete(calendarDateList).where(eq(calendarDateList.dateId, row.id));
  if (lists.length > 0)
    await tx.insert(calendarDateList).values(lists.map((listId) => ({ dateId: row.id, listId })));
  if (others !== undefined) await storeOthers(tx, row.id, others);
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

/**
 * Lets a date take place that was called off. What called it off was a newer state of it (RFC 5546, section 2.1.4), so this is a
 * newer one still.
 */
export async function markRestored(tx: Queries, id: string, davName?: string): Promise<void> {
  await tx
    .update(calendarDate)
    .set({
      cancelledAt: null,
      reason: "",
      sequence: sql`${calendarDate.sequence} + 2`,
      changedAt: sql`now()`,
      ...(davName === undefined ? {} : { davName }),
    })
    .where(eq(calendarDate.id, id));
}

import { and, eq, gt, isNotNull, or, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { calendarDate, calendarGuest } from "../db/schema/dates";
import { list } from "../db/schema/lists";

/** Lists the dates whose guests may have to be told something: those that aren't over. */
export async function listOpenDates(db: Queries, now: Date): Promise<string[]> {
  const rows = await db
    .select({ id: calendarDate.id })
    .from(calendarDate)
    .where(
      and(
        gt(calendarDate.lastAt, now),
        or(
          sql`${calendarDate.cancelledAt} is null`,
          and(
            isNotNull(calendarDate.cancelledAt),
            sql`exists (select 1 from ${calendarGuest} where ${calendarGuest.dateId} = ${calendarDate.id} and ${calendarGuest.told} = 'invited')`,
          ),
        ),
      ),
    )
    .orderBy(calendarDate.firstAt);
  return rows.map(({ id }) => id);
}

/** Returns a date with the list that invites, unless another worker is at it; the others wait until the transaction ends. */
export async function claimDate(tx: Queries, id: string) {
  const [found] = await tx
    .select({ date: calendarDate, list: { name: list.name, title: list.title } })
    .from(calendarDate)
    .innerJoin(list, eq(list.id, calendarDate.organiserId))
    .where(eq(calendarDate.id, id))
    .for("update", { of: calendarDate, skipLocked: true });
  return found;
}

/** Lists everybody who was ever invited to a date. */
export function listAllGuests(tx: Queries, date: string) {
  return tx.select().from(calendarGuest).where(eq(calendarGuest.dateId, date));
}

/** Stores what guests are told. Whoever is invited again keeps their links and what they said. */
export async function storeTold(
  tx: Queries,
  date: string,
  guests: readonly { address: string; token: string }[],
  told: "invited" | "withdrawn",
  sequence: number,
): Promise<void> {
  if (guests.length === 0) return;
  await tx
    .insert(calendarGuest)
    .values(guests.map((guest) => ({ ...guest, dateId: date, told, toldSequence: sequence })))
    .onConflictDoUpdate({
      target: [calendarGuest.dateId, calendarGuest.address],
      set: { told, toldSequence: sequence, toldAt: sql`now()` },
    });
}

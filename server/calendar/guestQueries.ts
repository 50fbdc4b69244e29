import { and, eq, sql } from "drizzle-orm";
import type { Answer } from "@amigo/core/calendar/calendarDate";
import type { Queries } from "../db/connect";
import { calendarDate, calendarGuest } from "../db/schema/dates";
import { list } from "../db/schema/lists";

/** Returns a guest with the date that they were invited to, by the secret of their invitation. */
export async function findInvited(db: Queries, token: string) {
  const [found] = await db
    .select({ guest: calendarGuest, date: calendarDate, list: list.title, name: list.name })
    .from(calendarGuest)
    .innerJoin(calendarDate, eq(calendarDate.id, calendarGuest.dateId))
    .innerJoin(list, eq(list.id, calendarDate.organiserId))
    .where(eq(calendarGuest.token, token));
  return found;
}

export type Invited = NonNullable<Awaited<ReturnType<typeof findInvited>>>;

/** Stores a guest's answer; the last one counts. */
export async function storeAnswer(
  db: Queries,
  guest: number,
  said: { answer: Answer; people: number; word: string },
): Promise<void> {
  await db
    .update(calendarGuest)
    .set({ ...said, answeredAt: sql`now()` })
    .where(and(eq(calendarGuest.id, guest), eq(calendarGuest.told, "invited")));
}

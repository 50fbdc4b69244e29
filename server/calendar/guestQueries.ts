import { and, asc, eq, inArray, sql } from "drizzle-orm";
import type { Answer } from "@amigo/core/calendar/calendarDate";
import type { When } from "@amigo/core/calendar/when";
import type { Queries } from "../db/connect";
import { calendarDate, calendarGuest } from "../db/schema/dates";
import { list } from "../db/schema/lists";

/** Returns a guest with the date that they were invited to, by the secret of their invitation. */
export async function findInvited(db: Queries, token: string) {
  const [found] = await db
    .select({
      guest: calendarGuest,
      date: calendarDate,
      // Where people are invited by themselves, it is whoever made the date who invites them.
      list: sql<string>`coalesce(${list.title}, ${calendarDate.madeBy})`,
      name: sql<string>`coalesce(${list.name}, 'postmaster')`,
    })
    .from(calendarGuest)
    .innerJoin(calendarDate, eq(calendarDate.id, calendarGuest.dateId))
    .leftJoin(list, eq(list.id, calendarDate.organiserId))
    .where(eq(calendarGuest.token, token));
  return found;
}

export type Invited = NonNullable<Awaited<ReturnType<typeof findInvited>>>;

/** Makes others who change a date or answer it wait until the transaction ends. */
export async function lockAnswers(tx: Queries, date: string): Promise<void> {
  await tx
    .select({ id: calendarDate.id })
    .from(calendarDate)
    .where(eq(calendarDate.id, date))
    .for("update");
}

/** What is stored of a guest's answer. */
export interface AnswerStored {
  answer: Answer;
  people: number;
  word: string;
  comingSince: Date | null;
  isWaiting: boolean;
  toldWaiting: boolean | null;
}

/** Stores a guest's answer; the last one counts, and another time that they proposed before it is gone. */
export async function storeAnswer(db: Queries, guest: number, said: AnswerStored): Promise<void> {
  await db
    .update(calendarGuest)
    .set({ ...said, proposes: null, answeredAt: sql`now()` })
    .where(and(eq(calendarGuest.id, guest), eq(calendarGuest.told, "invited")));
}

/** Stores another time that a guest proposes, with their note. */
export async function storeProposal(
  db: Queries,
  guest: number,
  proposes: When,
  word: string,
): Promise<void> {
  await db
    .update(calendarGuest)
    .set({ proposes, ...(word === "" ? {} : { word }) })
    .where(and(eq(calendarGuest.id, guest), eq(calendarGuest.told, "invited")));
}

/** Stores how many days before a date a guest wants to be reminded; null for what the date has. */
export async function storeRemind(
  db: Queries,
  guest: number,
  remind: number[] | null,
): Promise<void> {
  await db.update(calendarGuest).set({ remind }).where(eq(calendarGuest.id, guest));
}

/** Lists those who say that they come to a date, whoever said it first before the others. */
export function listComers(tx: Queries, date: string) {
  return tx
    .select({
      id: calendarGuest.id,
      people: calendarGuest.people,
      isWaiting: calendarGuest.isWaiting,
    })
    .from(calendarGuest)
    .where(
      and(
        eq(calendarGuest.dateId, date),
        eq(calendarGuest.told, "invited"),
        eq(calendarGuest.answer, "yes"),
      ),
    )
    .orderBy(asc(calendarGuest.comingSince), asc(calendarGuest.id));
}

/** Stores that guests have a place, or wait for one. */
export async function storeWaiting(
  tx: Queries,
  guests: readonly number[],
  isWaiting: boolean,
): Promise<void> {
  if (guests.length > 0)
    await tx
      .update(calendarGuest)
      .set({ isWaiting })
      .where(inArray(calendarGuest.id, [...guests]));
}

/** Stores that guests know whether they have a place. */
export async function storeToldWaiting(tx: Queries, guests: readonly number[]): Promise<void> {
  if (guests.length > 0)
    await tx
      .update(calendarGuest)
      .set({ toldWaiting: sql`${calendarGuest.isWaiting}` })
      .where(inArray(calendarGuest.id, [...guests]));
}

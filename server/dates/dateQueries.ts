import { alphabetical } from "../db/alphabetical";
import { and, asc, desc, eq, gte, inArray, isNull, lt, sql, type SQL } from "drizzle-orm";
import { addDays } from "@amigo/core/calendar/when";
import type { Caller } from "../callers/caller";
import type { DateRow } from "../calendar/dateQueries";
import type { Queries } from "../db/connect";
import { calendarDate, calendarDateList, calendarGuest } from "../db/schema/dates";
import { list, membership } from "../db/schema/lists";
import { listsOf } from "../membership/queries";

/** The most dates that are listed at once. */
const MOST = 500;

/** The dates that somebody may see: their own, and those of lists that they see. */
export function visible(caller: Caller): SQL {
  return sql`(${calendarDate.accountId} = ${caller.id} or exists (select 1 from ${calendarDateList} join ${list} on ${list.id} = ${calendarDateList.listId} where ${calendarDateList.dateId} = ${calendarDate.id} and ${listsOf(caller)}))`;
}

/** Lists the dates that somebody sees: those that aren't over, the next first, or the past ones, the last first. */
export function listDateRows(db: Queries, caller: Caller, which: "coming" | "past", now: Date) {
  return db
    .select()
    .from(calendarDate)
    .where(
      and(
        visible(caller),
        which === "coming" ? gte(calendarDate.lastAt, now) : lt(calendarDate.lastAt, now),
      ),
    )
    .orderBy(which === "coming" ? asc(calendarDate.firstAt) : desc(calendarDate.lastAt))
    .limit(MOST);
}

/** Lists the dates that somebody sees and that may have a time between two days. */
export function listDateRowsBetween(db: Queries, caller: Caller, from: string, until: string) {
  // A day of margin on both sides: days are days of the house's clocks.
  return db
    .select()
    .from(calendarDate)
    .where(
      and(
        visible(caller),
        gte(calendarDate.lastAt, new Date(`${addDays(from, -1)}T00:00:00Z`)),
        lt(calendarDate.firstAt, new Date(`${addDays(until, 2)}T00:00:00Z`)),
      ),
    )
    .orderBy(asc(calendarDate.firstAt))
    .limit(MOST);
}

/** Lists the dates of somebody's that were read from a fixture list. */
export function listImported(db: Queries, caller: Caller, name: string): Promise<DateRow[]> {
  return db
    .select()
    .from(calendarDate)
    .where(and(eq(calendarDate.importName, name), eq(calendarDate.accountId, caller.id)));
}

/** Returns a date, if somebody may see it. */
export async function findDate(db: Queries, id: string, caller: Caller) {
  const [found] = await db
    .select()
    .from(calendarDate)
    .where(and(eq(calendarDate.id, id), visible(caller)));
  return found;
}

/** Lists the lists of dates, with whether somebody sees who is on them. */
export function listListsOfDates(db: Queries, dates: readonly string[], caller: Caller) {
  return db
    .select({
      date: calendarDateList.dateId,
      id: list.id,
      key: list.key,
      seasonId: list.seasonId,
      title: list.title,
      isSeen: sql<boolean>`${listsOf(caller)}`,
    })
    .from(calendarDateList)
    .innerJoin(list, eq(list.id, calendarDateList.listId))
    .where(inArray(calendarDateList.dateId, [...dates]))
    .orderBy(alphabetical(list.title));
}

/** Lists the keys of a date's lists, by which it is known who belongs on them. */
export function listListKeys(db: Queries, date: string) {
  return db
    .select({ key: list.key, seasonId: list.seasonId })
    .from(calendarDateList)
    .innerJoin(list, eq(list.id, calendarDateList.listId))
    .where(eq(calendarDateList.dateId, date));
}

/**
 * Lists the guests of dates of whom somebody may know: those who are on lists that they see. Whether they are, or the guest
 * only counts for whoever made the date, is told with each.
 */
export function listGuests(db: Queries, dates: readonly string[], caller: Caller) {
  const isSeen = sql<boolean>`(${calendarGuest.isPersonal} and ${calendarDate.accountId} = ${caller.id}) or exists (select 1 from ${calendarDateList} join ${list} on ${list.id} = ${calendarDateList.listId} join ${membership} on ${membership.listId} = ${list.id} and ${membership.address} = ${calendarGuest.address} and ${membership.validUntil} is null where ${calendarDateList.dateId} = ${calendarGuest.dateId} and ${listsOf(caller)})`;
  return db
    .select({
      date: calendarGuest.dateId,
      address: calendarGuest.address,
      family: calendarGuest.family,
      isPersonal: calendarGuest.isPersonal,
      answer: calendarGuest.answer,
      people: calendarGuest.people,
      isWaiting: calendarGuest.isWaiting,
      word: calendarGuest.word,
      proposes: calendarGuest.proposes,
      answeredAt: calendarGuest.answeredAt,
      chasedAt: calendarGuest.chasedAt,
      isSeen,
    })
    .from(calendarGuest)
    .innerJoin(calendarDate, eq(calendarDate.id, calendarGuest.dateId))
    .where(
      and(
        inArray(calendarGuest.dateId, [...dates]),
        eq(calendarGuest.told, "invited"),
        sql`(${calendarDate.accountId} = ${caller.id} or ${isSeen})`,
      ),
    )
    .orderBy(asc(calendarGuest.address));
}

/** Lists the members of some lists that are open, each address once. */
export async function listInvitable(db: Queries, lists: readonly string[]): Promise<string[]> {
  const rows = await db
    .selectDistinct({ address: membership.address })
    .from(membership)
    .innerJoin(list, eq(list.id, membership.listId))
    .where(
      and(
        inArray(membership.listId, [...lists]),
        isNull(membership.validUntil),
        isNull(list.closedAt),
      ),
    );
  return rows.map(({ address }) => address).sort();
}

/** Lists which of a date's lists, of those that somebody sees, its guests are on. */
export function listGuestsOnLists(db: Queries, date: string, caller: Caller) {
  return db
    .select({ address: membership.address, list: list.id })
    .from(calendarDateList)
    .innerJoin(list, eq(list.id, calendarDateList.listId))
    .innerJoin(membership, eq(membership.listId, list.id))
    .where(
      and(
        eq(calendarDateList.dateId, date),
        isNull(membership.validUntil),
        sql`${listsOf(caller)}`,
      ),
    )
    .orderBy(alphabetical(list.title));
}

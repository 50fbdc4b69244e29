import { alphabetical } from "../db/alphabetical";
import { and, asc, desc, eq, gt, isNotNull, isNull, lt, or, sql } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { davSync } from "../db/schema/calendars";
import { calendarDate, calendarDateList } from "../db/schema/dates";
import { season } from "../db/schema/house";
import { list } from "../db/schema/lists";
import { listsOf } from "../membership/queries";

/** How long a date stays in calendars after it is over. */
const SHOWN = sql`now() - interval '1 year'`;
/** How many states of a collection are kept for an account, and for how long. */
const MOST_STATES = 20;

/**
 * Lists the lists that are calendars of an account: those that its owner leads, and for those who see more lists than their own
 * those that have had a date. A calendar stays for as long as its list does, so that no program loses it.
 */
export function listCalendarLists(db: Queries, caller: Caller) {
  return db
    .select({ id: list.id, title: list.title, description: list.description })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .where(
      and(
        eq(season.current, true),
        isNull(list.closedAt),
        listsOf(caller),
        caller.role === "staff"
          ? undefined
          : sql`exists (select 1 from ${calendarDateList} where ${calendarDateList.listId} = ${list.id})`,
      ),
    )
    .orderBy(alphabetical(list.title));
}

/** Lists the dates of one list, or of all that somebody sees, which are shown in calendars. */
export function listCalendarDates(db: Queries, caller: Caller, listId: string | undefined) {
  const ofList = listId === undefined ? undefined : eq(calendarDateList.listId, listId);
  return db
    .selectDistinctOn([calendarDate.id])
    .from(calendarDate)
    .leftJoin(calendarDateList, eq(calendarDateList.dateId, calendarDate.id))
    .leftJoin(list, eq(list.id, calendarDateList.listId))
    .where(
      and(
        isNull(calendarDate.cancelledAt),
        gt(calendarDate.lastAt, SHOWN),
        or(and(isNotNull(list.id), listsOf(caller)), eq(calendarDate.accountId, caller.id)),
        ofList,
      ),
    )
    .orderBy(asc(calendarDate.id));
}

/** Returns what a program knew when it was given a token; undefined where that isn't known any more. */
export async function findSyncState(
  db: Queries,
  account: string,
  collection: string,
  token: string,
): Promise<Record<string, string> | undefined> {
  const [found] = await db
    .select({ state: davSync.state })
    .from(davSync)
    .where(
      and(
        eq(davSync.accountId, account),
        eq(davSync.collection, collection),
        eq(davSync.token, token),
      ),
    );
  return found?.state;
}

/** Stores what a program is told, and forgets what is too long ago. */
export async function storeSyncState(
  db: Queries,
  account: string,
  collection: string,
  token: string,
  state: Record<string, string>,
): Promise<void> {
  await db
    .insert(davSync)
    .values({ accountId: account, collection, token, state })
    .onConflictDoUpdate({
      target: [davSync.accountId, davSync.collection, davSync.token],
      set: { askedAt: sql`now()` },
    });
  const kept = db
    .select({ token: davSync.token })
    .from(davSync)
    .where(and(eq(davSync.accountId, account), eq(davSync.collection, collection)))
    .orderBy(desc(davSync.askedAt))
    .limit(MOST_STATES);
  await db
    .delete(davSync)
    .where(
      and(
        eq(davSync.accountId, account),
        eq(davSync.collection, collection),
        or(
          sql`${davSync.token} not in (${kept})`,
          lt(davSync.askedAt, sql`now() - interval '60 days'`),
        ),
      ),
    );
}

/** Stores under which name a calendar program has put a date, and by what other programs know it. */
export async function nameDate(
  tx: Queries,
  id: string,
  names: { davName: string; uid: string },
): Promise<void> {
  await tx.update(calendarDate).set(names).where(eq(calendarDate.id, id));
}

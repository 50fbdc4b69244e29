import { and, asc, eq, gt, isNull, sql, type SQL } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { calendarDate, calendarDateList, calendarFeed, calendarGuest } from "../db/schema/dates";
import { list } from "../db/schema/lists";
import { visible } from "./dateQueries";

/** How long a date stays in calendars after it is over. */
const SHOWN = sql`now() - interval '1 year'`;
const MOST = 5000;

/** What a feed is of: exactly one of the house, a list, an account or an address. */
export type FeedOf =
  | { kind: "house" }
  | { kind: "list"; listId: string }
  | { kind: "account"; accountId: string }
  | { kind: "address"; address: string };

function isOf(of: FeedOf): SQL | undefined {
  const same =
    of.kind === "list"
      ? eq(calendarFeed.listId, of.listId)
      : of.kind === "account"
        ? eq(calendarFeed.accountId, of.accountId)
        : of.kind === "address"
          ? eq(calendarFeed.address, of.address)
          : undefined;
  return and(eq(calendarFeed.kind, of.kind), same);
}

/** Returns the secret of a feed's address; undefined where it has none. */
export async function findFeedSecret(db: Queries, of: FeedOf): Promise<string | undefined> {
  const [found] = await db
    .select({ secret: calendarFeed.secret })
    .from(calendarFeed)
    .where(isOf(of));
  return found?.secret;
}

/** Stores the secret of a feed's address in place of the one that it had. */
export async function storeFeed(tx: Queries, of: FeedOf, secret: string): Promise<void> {
  await tx.delete(calendarFeed).where(isOf(of));
  await tx.insert(calendarFeed).values({ ...of, secret });
}

/** Forgets the secret of a feed's address. */
export async function removeFeed(tx: Queries, of: FeedOf): Promise<void> {
  await tx.delete(calendarFeed).where(isOf(of));
}

/** Returns what a secret address is of, with the account whose it is, where that may still sign in. */
export async function findFeed(db: Queries, secret: string) {
  const [found] = await db
    .select({
      feed: calendarFeed,
      list: list.title,
      account: {
        id: account.id,
        name: account.name,
        email: account.email,
        role: account.role,
        siteId: account.siteId,
      },
    })
    .from(calendarFeed)
    .leftJoin(list, eq(list.id, calendarFeed.listId))
    .leftJoin(account, and(eq(account.id, calendarFeed.accountId), accountInForce))
    .where(eq(calendarFeed.secret, secret));
  return found;
}

/** The dates of a feed. */
function datesOf(of: FeedOf, caller: Caller | undefined): SQL | undefined {
  const ofList = (listId: string): SQL =>
    sql`exists (select 1 from ${calendarDateList} where ${calendarDateList.dateId} = ${calendarDate.id} and ${calendarDateList.listId} = ${listId})`;
  const ofGuest = (address: string): SQL =>
    sql`exists (select 1 from ${calendarGuest} where ${calendarGuest.dateId} = ${calendarDate.id} and ${calendarGuest.address} = ${address} and ${calendarGuest.told} = 'invited')`;
  const which =
    of.kind === "list"
      ? ofList(of.listId)
      : of.kind === "address"
        ? ofGuest(of.address)
        : of.kind === "house"
          ? // What somebody made for people alone is between them.
            sql`exists (select 1 from ${calendarDateList} where ${calendarDateList.dateId} = ${calendarDate.id})`
          : caller === undefined
            ? sql`false`
            : visible(caller);
  return and(gt(calendarDate.lastAt, SHOWN), which);
}

/** Returns the version of a feed: another one as soon as any of its dates changes, comes or goes. */
export async function findFeedVersion(
  db: Queries,
  of: FeedOf,
  caller: Caller | undefined,
): Promise<string> {
  const [found] = await db
    .select({
      version: sql<string>`count(*) || '-' || coalesce(sum(hashtext(${calendarDate.id}::text)), 0) || '-' || coalesce(extract(epoch from max(${calendarDate.changedAt})), 0)`,
    })
    .from(calendarDate)
    .where(datesOf(of, caller));
  return found?.version ?? "";
}

/** Lists the dates of a feed. */
export function listFeedDates(db: Queries, of: FeedOf, caller: Caller | undefined) {
  return db
    .select()
    .from(calendarDate)
    .where(datesOf(of, caller))
    .orderBy(asc(calendarDate.firstAt), asc(calendarDate.id))
    .limit(MOST);
}

/** Lists the coming dates to which an address is invited, with its answers. */
export function listInvitations(db: Queries, address: string, now: Date) {
  return db
    .select({ date: calendarDate, guest: calendarGuest })
    .from(calendarGuest)
    .innerJoin(calendarDate, eq(calendarDate.id, calendarGuest.dateId))
    .where(
      and(
        eq(calendarGuest.address, address),
        eq(calendarGuest.told, "invited"),
        isNull(calendarDate.cancelledAt),
        gt(calendarDate.lastAt, now),
      ),
    )
    .orderBy(asc(calendarDate.firstAt))
    .limit(100);
}

import { and, asc, eq, gt, inArray, isNotNull, isNull, or, sql, type SQL } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { calendarFeed } from "../db/schema/calendars";
import { calendarDate, calendarDateList, calendarGuest } from "../db/schema/dates";
import { cohort, list } from "../db/schema/lists";
import { visible } from "./dateQueries";

/** How long a date stays in calendars after it is over. */
const SHOWN = sql`now() - interval '1 year'`;
const MOST = 5000;

/** What a feed is of: the house, a list, an account, an address, or one child of whoever has the address. */
export type FeedOf =
  | { kind: "house" }
  | { kind: "list"; listId: string }
  | { kind: "account"; accountId: string }
  | { kind: "address"; address: string }
  | { kind: "child"; address: string; person: string };

/** By what it is known now which dates a feed has: the account that sees them, or the classes that a child is in. */
export interface FeedSight {
  caller?: Caller | undefined;
  cohorts?: readonly string[] | undefined;
}

function isOf(of: FeedOf): SQL | undefined {
  const same =
    of.kind === "list"
      ? eq(calendarFeed.listId, of.listId)
      : of.kind === "account"
        ? eq(calendarFeed.accountId, of.accountId)
        : of.kind === "address"
          ? eq(calendarFeed.address, of.address)
          : of.kind === "child"
            ? and(eq(calendarFeed.address, of.address), eq(calendarFeed.person, of.person))
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
function datesOf(of: FeedOf, { caller, cohorts }: FeedSight): SQL | undefined {
  return and(gt(calendarDate.lastAt, SHOWN), whichOf(of, caller, cohorts));
}

function whichOf(
  of: FeedOf,
  caller: Caller | undefined,
  cohorts: readonly string[] | undefined,
): SQL | undefined {
  switch (of.kind) {
    case "list":
      return forListsWhere(eq(calendarDateList.listId, of.listId));
    case "address":
      return hasGuest(of.address);
    case "child":
      // What no class is invited to is for all of the family's children.
      return and(
        hasGuest(of.address),
        or(
          cohorts === undefined || cohorts.length === 0
            ? sql`false`
            : forListsWhere(inArray(cohort.key, [...cohorts])),
          sql`not ${forListsWhere(isNotNull(list.cohortId))}`,
        ),
      );
    case "house":
      // What somebody made for people alone is between them.
      return forListsWhere(sql`true`);
    case "account":
      return caller === undefined ? sql`false` : visible(caller);
  }
}

function forListsWhere(condition: SQL): SQL {
  return sql`exists (select 1 from ${calendarDateList} join ${list} on ${list.id} = ${calendarDateList.listId} left join ${cohort} on ${cohort.id} = ${list.cohortId} where ${calendarDateList.dateId} = ${calendarDate.id} and ${condition})`;
}

function hasGuest(address: string): SQL {
  return sql`exists (select 1 from ${calendarGuest} where ${calendarGuest.dateId} = ${calendarDate.id} and ${calendarGuest.address} = ${address} and ${calendarGuest.told} = 'invited')`;
}

/** Returns the version of a feed: another one as soon as any of its dates changes, comes or goes. */
export async function findFeedVersion(db: Queries, of: FeedOf, sight: FeedSight): Promise<string> {
  const [found] = await db
    .select({
      version: sql<string>`count(*) || '-' || coalesce(sum(hashtext(${calendarDate.id}::text)), 0) || '-' || coalesce(extract(epoch from max(${calendarDate.changedAt})), 0)`,
    })
    .from(calendarDate)
    .where(datesOf(of, sight));
  return found?.version ?? "";
}

/** Lists the dates of a feed. */
export function listFeedDates(db: Queries, of: FeedOf, sight: FeedSight) {
  return db
    .select()
    .from(calendarDate)
    .where(datesOf(of, sight))
    .orderBy(asc(calendarDate.firstAt), asc(calendarDate.id))
    .limit(MOST);
}

/** Lists the secrets of the feeds of a member's children, by child. */
export async function listChildSecrets(db: Queries, address: string): Promise<Map<string, string>> {
  const rows = await db
    .select({ person: calendarFeed.person, secret: calendarFeed.secret })
    .from(calendarFeed)
    .where(and(eq(calendarFeed.kind, "child"), eq(calendarFeed.address, address)));
  return new Map(rows.map(({ person, secret }) => [person ?? "", secret]));
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

import { and, asc, eq, gte, inArray, lt, sql } from "drizzle-orm";
import type { News, PushTopic } from "@amigo/core/push/topics";
import { hash } from "@amigo/core/text/hash";
import { callerColumns, callerMay, type Caller } from "../callers/caller";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { addressTrouble } from "../db/schema/deliveries";
import { pushChoice, pushDevice, pushKey, pushTold } from "../db/schema/push";
import { request } from "../db/schema/requests";
import { decidable, peopleOf } from "../membership/scope";
import { decidersOfHeld, listOfHeld } from "../posting/heldQueries";

/** How many things of a topic are looked at in one turn. */
const MOST_NEWS = 500;

/** Returns the house's key for push services as it is stored. */
export async function findPushKey(db: Queries) {
  const [found] = await db.select().from(pushKey);
  return found;
}

/** Stores the house's key for push services where there is none, and returns the one that is stored then. */
export async function storePushKey(db: Queries, key: { publicKey: string; sealed: string }) {
  await db.insert(pushKey).values(key).onConflictDoNothing();
  return findPushKey(db);
}

/** Removes the key for push services, and with it the devices, whose subscriptions are bound to it (RFC 8292, section 4). */
export async function removePushKey(db: Queries): Promise<void> {
  await db.delete(pushDevice);
  await db.delete(pushKey);
}

/** Lists somebody's devices, the oldest first. */
export function listDevices(db: Queries, accountId: string) {
  return db
    .select()
    .from(pushDevice)
    .where(eq(pushDevice.accountId, accountId))
    .orderBy(asc(pushDevice.createdAt));
}

/** Returns one of somebody's devices; undefined where they have no such one. */
export async function findDevice(db: Queries, accountId: string, id: string) {
  const [found] = await db
    .select()
    .from(pushDevice)
    .where(and(eq(pushDevice.id, id), eq(pushDevice.accountId, accountId)));
  return found;
}

/** Stores a device of somebody's, and returns its id; a device that another account had on the same browser becomes theirs. */
export async function storeDevice(
  db: Queries,
  device: Omit<typeof pushDevice.$inferInsert, "id" | "createdAt" | "failures">,
): Promise<string> {
  const [stored] = await db
    .insert(pushDevice)
    .values(device)
    .onConflictDoUpdate({ target: pushDevice.endpoint, set: { ...device, failures: 0 } })
    .returning({ id: pushDevice.id });
  return stored?.id ?? "";
}

/** Removes one of somebody's devices. Returns whether there was one. */
export async function removeDevice(db: Queries, accountId: string, id: string): Promise<boolean> {
  const removed = await db
    .delete(pushDevice)
    .where(and(eq(pushDevice.id, id), eq(pushDevice.accountId, accountId)))
    .returning({ id: pushDevice.id });
  return removed.length > 0;
}

/** Removes devices that take no more messages. */
export async function removeGone(db: Queries, ids: readonly string[]): Promise<void> {
  await db.delete(pushDevice).where(inArray(pushDevice.id, [...ids]));
}

/** Removes devices whose push services haven't taken a message so many times in a row. */
export async function removeFailing(db: Queries, most: number): Promise<void> {
  await db.delete(pushDevice).where(gte(pushDevice.failures, most));
}

/** Stores whether a device's push service took a message. */
export async function storeTaken(db: Queries, id: string, taken: boolean): Promise<void> {
  await db
    .update(pushDevice)
    .set({ failures: taken ? 0 : sql`${pushDevice.failures} + 1` })
    .where(eq(pushDevice.id, id));
}

/** Returns of what somebody wants to be told; undefined where they never chose. */
export async function findTopics(db: Queries, accountId: string): Promise<PushTopic[] | undefined> {
  const [found] = await db
    .select({ topics: pushChoice.topics })
    .from(pushChoice)
    .where(eq(pushChoice.accountId, accountId));
  return found?.topics;
}

/** Stores of what somebody wants to be told. What happened before isn't told. */
export async function storeTopics(
  db: Queries,
  caller: Caller,
  topics: readonly PushTopic[],
): Promise<void> {
  const chosen = { topics: [...topics], since: sql`now()` };
  await db
    .insert(pushChoice)
    .values({ accountId: caller.id, ...chosen })
    .onConflictDoUpdate({ target: pushChoice.accountId, set: chosen });
  const standing = await listNews(db, "safety check", caller, new Date());
  if (standing.length > 0) await storeTold(db, caller.id, standing);
}

/** Takes everybody who can be told of something, so that no other worker tells them meanwhile. */
export async function takeListeners(db: Queries) {
  const rows = await db
    .select({
      ...callerColumns,
      language: account.language,
      topics: pushChoice.topics,
      since: pushChoice.since,
    })
    .from(pushChoice)
    .innerJoin(account, and(eq(account.id, pushChoice.accountId), accountInForce))
    .where(
      sql`cardinality(${pushChoice.topics}) > 0 and exists (select 1 from ${pushDevice} where ${pushDevice.accountId} = ${account.id})`,
    )
    .for("update", { of: pushChoice, skipLocked: true });
  return rows.map(({ topics, since, language, ...caller }) => ({
    caller: { ...caller, by: "session" } satisfies Caller,
    ...{ topics, since, language },
  }));
}

/** Lists what is new of a topic since a moment, as far as somebody is concerned, and wasn't told to them. */
export async function listNews(
  db: Queries,
  topic: PushTopic,
  caller: Caller,
  since: Date,
): Promise<News[]> {
  const rows = await NEWS[topic](db, caller, since);
  if (rows.length === 0) return [];
  const told = await db
    .select({ mark: pushTold.mark })
    .from(pushTold)
    .where(
      and(
        eq(pushTold.accountId, caller.id),
        inArray(
          pushTold.mark,
          rows.map(({ mark }) => `${topic} ${mark}`),
        ),
      ),
    );
  const known = new Set(told.map(({ mark }) => mark));
  return rows
    .map(({ mark, name }) => ({ topic, mark: `${topic} ${mark}`, name }))
    .filter(({ mark }) => !known.has(mark));
}

/** Stores what was told to somebody. */
export async function storeTold(
  db: Queries,
  accountId: string,
  news: readonly News[],
): Promise<void> {
  await db
    .insert(pushTold)
    .values(news.map(({ mark }) => ({ accountId, mark })))
    .onConflictDoNothing();
}

/** Removes what was told so long ago that it can't come up again. */
export async function forgetTold(db: Queries, before: Date): Promise<void> {
  await db.delete(pushTold).where(lt(pushTold.at, before));
}

type NewsRow = { mark: string; name: string };

/** What is new of each topic, as far as somebody is concerned. */
const NEWS: Record<PushTopic, (db: Queries, caller: Caller, since: Date) => Promise<NewsRow[]>> = {
  "held mail": async (db, caller, since) => {
    const { rows } = await db.execute<NewsRow>(sql`
      select post.id as mark, list.title as name from post ${listOfHeld}
        join account on account.id = ${caller.id} and ${decidersOfHeld}
      where post.outcome = 'held' and post.at > ${since.toISOString()}::timestamptz
      order by post.at limit ${MOST_NEWS}`);
    return rows;
  },
  request: (db, caller, since) =>
    db
      .select({ mark: sql<string>`${request.id}::text`, name: request.title })
      .from(request)
      .where(
        and(
          eq(request.state, "open"),
          decidable(caller),
          sql`${request.accountId} <> ${caller.id} and ${request.at} > ${since.toISOString()}::timestamptz`,
        ),
      )
      .orderBy(asc(request.at))
      .limit(MOST_NEWS),
  // A check has no time of its own: those that stood before somebody chose to be told are stored as told.
  "safety check": async (db, caller) => {
    if (caller.role !== "coordinator") return [];
    const { rows } = await db.execute<NewsRow>(sql`
      select round.number || ' ' || (guard->>'id') as mark, '' as name
      from round cross join lateral jsonb_array_elements(round.guards) as guard
      where round.state = 'open' limit ${MOST_NEWS}`);
    return rows;
  },
  address: async (db, caller, since) => {
    if (!callerMay(caller, "see people")) return [];
    const within = peopleOf(caller, sql`(select id from season where current)`);
    const rows = await db
      .select({ mark: addressTrouble.address, at: addressTrouble.since })
      .from(addressTrouble)
      .where(
        and(
          eq(addressTrouble.state, "stopped"),
          sql`${addressTrouble.since} > ${since.toISOString()}::timestamptz`,
          within === undefined
            ? undefined
            : sql`exists (select 1 from fact where fact.kind = 'address' and fact.ref = ${addressTrouble.address} and fact.valid_until is null and fact.season_id in (select id from season where current) and fact.subject in ${within})`,
        ),
      )
      .orderBy(asc(addressTrouble.since))
      .limit(MOST_NEWS);
    // An address may fail once more later on, which is news again.
    return rows.map(({ mark, at }) => ({ mark: `${hash(mark)} ${at.getTime()}`, name: "" }));
  },
};

import { alphabetical } from "../db/alphabetical";
import { and, eq, isNull, sql, lt, desc, inArray } from "drizzle-orm";
import { accountInForce } from "../callers/inForce";
import { hashToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { delivery } from "../db/schema/deliveries";
import { season } from "../db/schema/house";
import { list, membership, listRole, greeting } from "../db/schema/lists";
import { pause, receiving, memberSession } from "../db/schema/members";
import { post, message, postList } from "../db/schema/posts";
import { searchOf } from "../posting/searchOf";

/** What the archive shows of a post, and which posts stand in it. */
const archived = {
  id: post.id,
  subject: post.subject,
  from: post.fromName,
  fromAddress: post.fromAddress,
  at: post.at,
  thread: post.thread,
  raw: message.raw,
};

const inArchive = and(
  eq(post.outcome, "goes out"),
  eq(post.reaches, "members"),
  isNull(post.takenOutAt),
  isNull(message.erasedAt),
  sql`(${post.leavesAt} is null or ${post.leavesAt} <= now())`,
);

const POSTS = 20;

export const PAGE_HOURS = 12;

/** Returns a list if an address is on it now. */
export async function findOwnList(db: Queries, address: string, id: string) {
  const [found] = await db
    .select({ id: list.id, seasonId: list.seasonId, rules: list.rules })
    .from(list)
    .innerJoin(
      membership,
      and(
        eq(membership.listId, list.id),
        eq(membership.address, address),
        isNull(membership.validUntil),
      ),
    )
    .where(and(eq(list.id, id), isNull(list.closedAt)));
  return found;
}

/** Returns a list's rules, and whether an address is on it. */
export async function findReadable(db: Queries, address: string, id: string) {
  const [found] = await db
    .select({ rules: list.rules, on: membership.id })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .leftJoin(
      membership,
      and(
        eq(membership.listId, list.id),
        eq(membership.address, address),
        isNull(membership.validUntil),
      ),
    )
    .where(and(eq(list.id, id), isNull(list.closedAt), eq(season.current, true)));
  return found;
}

/** Lists a page of the archive of a list. */
export function listArchived(db: Queries, listId: string, q: string, before: string | undefined) {
  return db
    .select(archived)
    .from(post)
    .innerJoin(postList, eq(postList.postId, post.id))
    .innerJoin(message, eq(message.id, post.messageId))
    .where(
      and(
        eq(postList.listId, listId),
        inArchive,
        q === "" ? undefined : sql`${post.words} @@ ${searchOf(q)}`,
        before === undefined ? undefined : lt(post.at, new Date(before)),
      ),
    )
    .orderBy(desc(post.at))
    .limit(POSTS);
}

/** Returns a post of an archive with its list. */
export async function findArchived(db: Queries, id: string) {
  const [found] = await db
    .select({ ...archived, listId: list.id, title: list.title })
    .from(post)
    .innerJoin(postList, eq(postList.postId, post.id))
    .innerJoin(list, eq(list.id, postList.listId))
    .innerJoin(message, eq(message.id, post.messageId))
    .where(and(eq(post.id, id), inArchive))
    .limit(1);
  return found;
}

/** Returns a post of an archive as it was sent. */
export function findArchivedRaw(db: Queries, id: string) {
  return db
    .select({ raw: message.raw, listId: postList.listId })
    .from(post)
    .innerJoin(postList, eq(postList.postId, post.id))
    .innerJoin(message, eq(message.id, post.messageId))
    .where(and(eq(post.id, id), inArchive))
    .limit(1);
}

/** Lets an address get mail again. */
export async function endPause(db: Queries, address: string): Promise<void> {
  await db.delete(pause).where(eq(pause.address, address));
}

/** Stores until when an address gets no mail. */
export async function storePause(db: Queries, address: string, until: string): Promise<void> {
  await db
    .insert(pause)
    .values({ address, until })
    .onConflictDoUpdate({ target: pause.address, set: { until } });
}

/** Lists the lists that an address is on. */
export function listOwnLists(db: Queries, address: string) {
  return db
    .select({
      id: list.id,
      title: list.title,
      name: list.name,
      description: list.description,
      rules: list.rules,
      seasonId: list.seasonId,
      key: list.key,
      howOften: receiving.howOften,
    })
    .from(membership)
    .innerJoin(list, eq(list.id, membership.listId))
    .innerJoin(season, eq(season.id, list.seasonId))
    .leftJoin(receiving, and(eq(receiving.listId, list.id), eq(receiving.address, address)))
    .where(
      and(
        eq(membership.address, address),
        isNull(membership.validUntil),
        isNull(list.closedAt),
        eq(season.current, true),
      ),
    )
    .orderBy(alphabetical(list.title));
}

/** Lists the leads of some lists. */
export function listLeadNames(db: Queries, lists: readonly { id: string }[]) {
  return db
    .select({ listId: listRole.listId, name: account.name })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .where(
      and(
        inArray(
          listRole.listId,
          lists.map(({ id }) => id),
        ),
        eq(listRole.role, "lead"),
        accountInForce,
      ),
    );
}

/** Returns until when an address gets no mail, if it rests. */
export async function findPause(db: Queries, address: string, timeZone: string | undefined) {
  const [found] = await db
    .select({ until: pause.until })
    .from(pause)
    .where(
      and(
        eq(pause.address, address),
        sql`${pause.until} >= (now() at time zone ${timeZone ?? "UTC"})::date`,
      ),
    );
  return found;
}

/** Lists the lists that an address may ask to join. */
export function listOpenTo(db: Queries, address: string) {
  return db
    .select({
      id: list.id,
      title: list.title,
      description: list.description,
      rules: list.rules,
      asked: greeting.id,
    })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .leftJoin(
      greeting,
      and(
        eq(greeting.listId, list.id),
        eq(greeting.address, address),
        eq(greeting.kind, "agree"),
        isNull(greeting.answer),
      ),
    )
    .where(
      and(
        eq(season.current, true),
        isNull(list.closedAt),
        sql`${list.rules}->>'findable' = 'inside'`,
        sql`(${list.rules}->>'joining' in ('request', 'inside') or ${list.rules}->>'archive' = 'inside')`,
      ),
    )
    .orderBy(alphabetical(list.title))
    .limit(100);
}

/** Lists the state of the last copy to each address. */
export function listLastStates(db: Queries, addresses: readonly string[]) {
  return db
    .selectDistinctOn([delivery.address], { address: delivery.address, state: delivery.state })
    .from(delivery)
    .where(
      and(inArray(delivery.address, [...addresses]), inArray(delivery.state, ["sent", "bounced"])),
    )
    .orderBy(delivery.address, sql`${delivery.id} desc`);
}

/** Returns a membership of an address in the current season, or undefined. */
export async function findAnyMembership(db: Queries, address: string) {
  const [found] = await db
    .select({ id: membership.id })
    .from(membership)
    .innerJoin(list, eq(list.id, membership.listId))
    .innerJoin(season, eq(season.id, list.seasonId))
    .where(
      and(
        eq(membership.address, address),
        isNull(membership.validUntil),
        isNull(list.closedAt),
        eq(season.current, true),
      ),
    )
    .limit(1);
  return found;
}

/** Stores that an address has opened its member page. */
export async function storeMemberSession(
  db: Queries,
  token: string,
  address: string,
): Promise<void> {
  await db.insert(memberSession).values({
    tokenHash: hashToken(token),
    address,
    expiresAt: sql`now() + make_interval(hours => ${PAGE_HOURS})`,
  });
}

export async function countOn(db: Queries, listId: string): Promise<number> {
  const [found] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(membership)
    .where(and(eq(membership.listId, listId), isNull(membership.validUntil)));
  return found?.count ?? 0;
}

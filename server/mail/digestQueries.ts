import { sql, eq, and, inArray } from "drizzle-orm";
import { alphabetical } from "../db/alphabetical";
import type { Queries } from "../db/connect";
import { list } from "../db/schema/lists";
import { post, message, digestItem } from "../db/schema/posts";
import { partsIn } from "./partsIn";

/** How many posts may go into one digest; the rest follows in the next. */
const MOST_POSTS = 50;

/** Lists the addresses whose daily or weekly digest is due. */
export function listDueDigests(
  db: Queries,
  isWeekly: boolean,
  timeZone: string,
  digestHour: number,
  at: Date,
) {
  return db.execute<{ address: string }>(sql`
    select distinct digest_item.address from digest_item join list on list.id = digest_item.list_id left join receiving on receiving.list_id = digest_item.list_id and receiving.address = digest_item.address
    where digest_item.sent_at is null and ${isDue(isWeekly)} and digest_item.at < ${startOfHour(timeZone, at, digestHour).toISOString()}::timestamptz order by digest_item.address`);
}

/** That an item's time has come, by what its owner has chosen now. */
function isDue(isWeekly: boolean) {
  const chosen = sql`coalesce(receiving.how_often, list.rules->>'howOften')`;
  return isWeekly ? sql`true` : sql`${chosen} <> 'weekly'`;
}

/** The moment of today at which digests are put together; what comes later waits for the next. */
export function startOfHour(timeZone: string, now: Date, hour: number): Date {
  const { hour: at, minute } = partsIn(timeZone, now);
  return new Date((Math.floor(now.getTime() / 60_000) - (at - hour) * 60 - minute) * 60_000);
}

/** Makes other processes wait that would send a digest to the same address. */
export async function lockDigest(db: Queries, address: string): Promise<void> {
  await db.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`digest ${address}`}, 0))`);
}

/** Lists what a digest to an address is made of, and what of it is still wanted. */
export function listDigestItems(
  db: Queries,
  timeZone: string,
  address: string,
  isWeekly: boolean,
  before: Date,
) {
  return db.execute<{
    post_id: string;
    list_id: string;
    wanted: boolean;
  }>(sql`
    select digest_item.post_id, digest_item.list_id, coalesce(receiving.how_often, list.rules->>'howOften') <> 'nothing' and membership.id is not null and trouble.address is null and pause.address is null as wanted
    from digest_item join list on list.id = digest_item.list_id join post on post.id = digest_item.post_id
      left join receiving on receiving.list_id = digest_item.list_id and receiving.address = digest_item.address
      left join membership on membership.list_id = digest_item.list_id and membership.address = digest_item.address and membership.valid_until is null
      left join address_trouble as trouble on trouble.address = digest_item.address and trouble.state = 'stopped'
      left join pause on pause.address = digest_item.address and pause.until >= (now() at time zone ${timeZone})::date
    where digest_item.address = ${address} and digest_item.sent_at is null and ${isDue(isWeekly)} and digest_item.at < ${before.toISOString()}::timestamptz
      and (post.leaves_at is null or post.leaves_at <= now()) and post.paused_by = '' order by ${alphabetical(list.title)}, post.at limit ${MOST_POSTS} for update of digest_item`);
}

/** Lists the posts of a digest as they were sent. */
export function listDigestPosts(db: Queries, ids: string[]) {
  return db
    .select({
      id: post.id,
      subject: post.subject,
      fromName: post.fromName,
      fromAddress: post.fromAddress,
      asList: post.asList,
      at: post.at,
      raw: message.raw,
      merge: message.merge,
      messageId: message.messageId,
    })
    .from(post)
    .innerJoin(message, eq(message.id, post.messageId))
    .where(
      and(inArray(post.id, ids), eq(post.outcome, "goes out"), sql`length(${message.raw}) > 0`),
    );
}

/** Lists the lists that a digest is of. */
export function listDigestLists(db: Queries, items: readonly { list_id: string }[]) {
  return db
    .select({ id: list.id, name: list.name, title: list.title, rules: list.rules })
    .from(list)
    .where(inArray(list.id, [...new Set(items.map((item) => item.list_id))]));
}

/** Stores that posts have gone out by digest, but for those that did not fit. */
export async function markDigestSent(
  db: Queries,
  address: string,
  items: readonly { post_id: string }[],
  kept: ReadonlySet<string>,
): Promise<void> {
  await db
    .update(digestItem)
    .set({ sentAt: sql`now()` })
    .where(
      and(
        eq(digestItem.address, address),
        inArray(
          digestItem.postId,
          items.map((item) => item.post_id).filter((id) => !kept.has(id)),
        ),
      ),
    );
}

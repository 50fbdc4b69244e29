import { and, eq, isNull, sql, inArray, type SQL } from "drizzle-orm";
import type { BounceSort } from "@amigo/core/mail/bounces/form";
import { keepTimes } from "@amigo/core/retention/kept";
import { accountInForce } from "../callers/inForce";
import { hashToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { delivery, bounce, addressTrouble } from "../db/schema/deliveries";
import { house } from "../db/schema/house";
import { membership, greeting, list, listRole, listAddress } from "../db/schema/lists";
import { mailedLink } from "../db/schema/members";
import { post, message, digestItem } from "../db/schema/posts";
import { askedBy } from "../membership/greet";
import { isRecent } from "../posting/leaveToken";
import { partsIn } from "./partsIn";

/** At most so many posts go into one digest; the rest follows in the next. */
const MOST_POSTS = 50;

/** Returns an address's membership of a list, if it is on it now. */
export async function findMembership(db: Queries, listId: string, address: string) {
  const [found] = await db
    .select({ id: membership.id })
    .from(membership)
    .where(
      and(
        eq(membership.listId, listId),
        eq(membership.address, address),
        isNull(membership.validUntil),
      ),
    );
  return found;
}

/** Returns the question behind a secret, if it still waits for its answer. */
export async function findAsk(db: Queries, token: string) {
  const [found] = await db
    .select({ id: greeting.id, answer: greeting.answer })
    .from(greeting)
    .where(askedBy(hashToken(token)));
  return found;
}

/** Returns a list's id and title. */
export function findListNamed(db: Queries, id: string) {
  return db.select({ id: list.id, title: list.title }).from(list).where(eq(list.id, id));
}

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
      and (post.leaves_at is null or post.leaves_at <= now()) and post.paused_by = '' order by list.title, post.at limit ${MOST_POSTS} for update of digest_item`);
}

/** Lists the posts of a digest as they were sent. */
export function listDigestPosts(db: Queries, ids: string[]) {
  return db
    .select({
      id: post.id,
      subject: post.subject,
      fromName: post.fromName,
      fromAddress: post.fromAddress,
      at: post.at,
      raw: message.raw,
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

/** Returns the copy of a post to whose return path a token belongs. */
export function findCopyBehind(db: Queries, token: string) {
  return db
    .select({ id: delivery.id })
    .from(delivery)
    .where(and(eq(delivery.token, token), isRecent));
}

/** Returns the mailed link with a hash. */
export function findLinkBehind(db: Queries, hash: string) {
  return db
    .select({ hash: mailedLink.tokenHash })
    .from(mailedLink)
    .where(eq(mailedLink.tokenHash, hash));
}

/** Returns the unanswered question with a hash. */
export function findAskBehind(db: Queries, hash: string) {
  return db.select({ id: greeting.id }).from(greeting).where(askedBy(hash));
}

/** Lists the addresses of the copies to whose return paths tokens belong. */
export function listOwners(db: Queries, tokens: string[]) {
  return db
    .select({ address: delivery.address })
    .from(delivery)
    .where(and(inArray(delivery.token, tokens), isRecent));
}

/** Lists held mail on which nobody has decided in time. */
export function listForgottenHeld(db: Queries) {
  return db.execute<{ id: string; days: number }>(
    sql`select post.id, house.held_days as days from post, house where post.outcome = 'held' and post.at < now() - make_interval(days => house.held_days) order by post.at limit 200`,
  );
}

/** Erases posts that are older than the school keeps them. */
export function eraseOldMessages(
  db: Queries,
  keep:
    | Partial<
        Record<
          "posts" | "journal" | "imports" | "answers" | "seasons" | "deliveries" | "additions",
          number | null
        >
      >
    | undefined,
) {
  return db.execute(sql`
      with gone as (
        update message set raw = ''::bytea, merge = null, erased_at = now() where message.id in (${overArchiveTime(keepTimes(keep ?? {}).posts)})
        returning message.id)
      update post set words = to_tsvector('simple', left(subject, 500)), beginning = '' from gone where post.message_id = gone.id`);
}

/**
 * A query for the ids of messages that are no longer kept: older than so many days (null for no such limit), or of lists that keep
 * none. Never one that still waits for a decision, a copy or a digest.
 */
export function overArchiveTime(days: number | null): SQL {
  return sql`
    select message.id from message where message.erased_at is null and exists (
      select 1 from post where post.message_id = message.id) and not exists (
      select 1 from post where post.message_id = message.id and (
        post.outcome = 'held'
        or exists (select 1 from delivery where delivery.post_id = post.id and delivery.state in ('queued', 'sending', 'deferred'))
        or exists (select 1 from digest_item where digest_item.post_id = post.id and digest_item.sent_at is null)
        or not (
          ${days === null ? sql`false` : sql`post.at < now() - make_interval(days => ${days})`}
          or (post.at < now() - interval '1 day' and exists (select 1 from post_list where post_list.post_id = post.id) and not exists (select 1 from post_list join list on list.id = post_list.list_id where post_list.post_id = post.id and list.rules->>'archive' <> 'none')))))`;
}

/** Counts the notes of the last hour to an address. */
export async function countNotes(db: Queries, address: string) {
  const [found] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(delivery)
    .where(
      and(
        eq(delivery.address, address.toLowerCase()),
        isNull(delivery.postId),
        sql`${delivery.createdAt} > now() - interval '1 hour'`,
      ),
    );
  return found;
}

/** Returns the copy of a post to whose return path a mail came. */
export async function findReturnedCopy(db: Queries, token: string) {
  const [found] = await db
    .select({ id: delivery.id, address: delivery.address })
    .from(delivery)
    .where(eq(delivery.token, token));
  return found;
}

/** Stores that a copy came back. */
export async function markBounced(db: Queries, reply: string, id: number): Promise<void> {
  await db.update(delivery).set({ state: "bounced", reply }).where(eq(delivery.id, id));
}

/** Stores a returned mail. */
export async function storeBounce(
  db: Queries,
  deliveryId: number | null,
  address: string,
  sort: BounceSort,
  form: string,
  words: string,
): Promise<void> {
  await db.insert(bounce).values({ deliveryId, address, sort, form, words });
}

/** Counts on how many days mails to an address came back in a passing way, beside how many the school allows. */
export function countSoftDays(db: Queries, address: string, deliveryId: number | null) {
  return db.execute<{ days: number; limit: number }>(sql`
    select house.soft_days as limit, (select count(distinct (bounce.at at time zone house.time_zone)::date)::int from bounce where bounce.address = ${address} and bounce.sort in ('full', 'temporary') and bounce.at > greatest(now() - interval '30 days', coalesce((select max(sent_at) from delivery where delivery.address = ${address} and delivery.state = 'sent' and delivery.id is distinct from ${deliveryId}), '-infinity'))) as days from house`);
}

/** Returns whether mail to an address is stopped or in doubt. */
export async function findTrouble(db: Queries, address: string) {
  const [found] = await db
    .select({ state: addressTrouble.state })
    .from(addressTrouble)
    .where(sql`${addressTrouble.address} = ${address}`);
  return found;
}

/** Stores that mail to an address is stopped or in doubt. */
export async function storeTrouble(
  db: Queries,
  address: string,
  isStopped: boolean,
  sort: BounceSort,
  words: string,
): Promise<void> {
  await db
    .insert(addressTrouble)
    .values({ address, state: isStopped ? "stopped" : "shaky", sort, words })
    .onConflictDoUpdate({
      target: addressTrouble.address,
      set: { state: isStopped ? "stopped" : "shaky", sort, words, lastAt: sql`now()` },
    });
}

/** Cancels the copies that wait to be sent to an address. */
export async function cancelCopiesTo(db: Queries, address: string): Promise<void> {
  await db.execute(
    sql`update delivery set state = 'cancelled', reply = 'mail to this address has stopped' where address = ${address} and state in ('queued', 'deferred') and list_id is not null`,
  );
}

/** Forgets that mails to an address came back, and returns what it was. */
export async function removeTrouble(db: Queries, address: string) {
  const [found] = await db
    .delete(addressTrouble)
    .where(sql`${addressTrouble.address} = ${address}`)
    .returning({ state: addressTrouble.state });
  return found;
}

export async function leadsOf(tx: Queries, listId: string): Promise<string[]> {
  return (
    await tx
      .select({ name: account.name })
      .from(listRole)
      .innerJoin(account, eq(account.id, listRole.accountId))
      .where(and(eq(listRole.listId, listId), eq(listRole.role, "lead"), accountInForce))
      .orderBy(account.name)
  ).map(({ name }) => name);
}

/** The list to which a name leads, also an old name until its last day; a closed one too, for it answers that it is closed. */
export async function listAt(
  db: Queries,
  name: string,
): Promise<typeof list.$inferSelect | undefined> {
  const [found] = await db
    .select({ list })
    .from(listAddress)
    .innerJoin(list, eq(list.id, listAddress.listId))
    .innerJoin(house, sql`true`)
    .where(
      and(
        eq(listAddress.name, name),
        sql`not ${listAddress.released}`,
        sql`(${listAddress.until} is null or ${listAddress.until} >= (now() at time zone ${house.timeZone})::date)`,
      ),
    );
  return found?.list;
}

/** Says that some claims are still worked on. */
export async function prolong(
  db: Queries,
  ids: readonly number[],
  claimSeconds: number,
): Promise<void> {
  if (ids.length > 0)
    await db.execute(
      sql`update delivery set next_at = now() + make_interval(secs => ${claimSeconds}) where state = 'sending' and id = any(${`{${ids.join(",")}}`}::bigint[])`,
    );
}

/** Gives back what was claimed and not begun. */
export async function release(db: Queries, ids: readonly number[]): Promise<void> {
  if (ids.length > 0)
    await db.execute(
      sql`update delivery set state = case when attempts <= 1 then 'queued' else 'deferred' end, attempts = attempts - 1, next_at = now() where state = 'sending' and id = any(${`{${ids.join(",")}}`}::bigint[])`,
    );
}

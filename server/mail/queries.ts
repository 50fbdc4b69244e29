import { alphabetical } from "../db/alphabetical";
import { canonicalAddress } from "@amigo/core/address/domainName";
import { and, eq, isNull, sql, inArray, type SQL } from "drizzle-orm";
import { keepTimes } from "@amigo/core/retention/kept";
import { accountInForce } from "../callers/inForce";
import { hashToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { delivery } from "../db/schema/deliveries";
import { house } from "../db/schema/house";
import { greeting, list, listRole, listAddress } from "../db/schema/lists";
import { mailedLink } from "../db/schema/members";
import { askedBy } from "../membership/greet";
import { isRecent } from "../posting/leaveToken";

/** Returns the question behind a secret, if it still waits for its answer. */
export async function findAsk(db: Queries, token: string) {
  const [found] = await db
    .select({ id: greeting.id, answer: greeting.answer })
    .from(greeting)
    .where(askedBy(hashToken(token)));
  return found;
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
      update post set words = search_words(left(subject, 500)), beginning = '' from gone where post.message_id = gone.id`);
}

/**
 * A query for the ids of messages that are no longer kept: older than the given number of days (null for no such limit), or of lists that keep
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
        eq(delivery.address, canonicalAddress(address)),
        isNull(delivery.postId),
        sql`${delivery.createdAt} > now() - interval '1 hour'`,
      ),
    );
  return found;
}

export async function leadsOf(tx: Queries, listId: string): Promise<string[]> {
  return (
    await tx
      .select({ name: account.name })
      .from(listRole)
      .innerJoin(account, eq(account.id, listRole.accountId))
      .where(and(eq(listRole.listId, listId), eq(listRole.role, "lead"), accountInForce))
      .orderBy(alphabetical(account.name))
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

/** Gives back what was claimed and not begun. `reply` says why, where there is something to say. */
export async function release(db: Queries, ids: readonly number[], reply = ""): Promise<void> {
  if (ids.length > 0)
    await db.execute(
      sql`update delivery set state = case when attempts <= 1 then 'queued' else 'deferred' end, attempts = attempts - 1, next_at = now(), reply = case when ${reply} = '' then reply else ${reply} end where state = 'sending' and id = any(${`{${ids.join(",")}}`}::bigint[])`,
    );
}

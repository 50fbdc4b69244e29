import { alphabetical } from "../db/alphabetical";
import { canonicalAddress } from "@amigo/core/address/domainName";
import { eq, sql, and, inArray, isNull, type SQL, desc, count, isNotNull } from "drizzle-orm";
import type { BounceSort } from "@amigo/core/mail/bounces/form";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { delivery } from "../db/schema/deliveries";
import { list } from "../db/schema/lists";
import { post, postList, message } from "../db/schema/posts";
import { copiesOf, visiblePosts, changeableBy } from "../membership/scope";
import { postColumns } from "./postColumns";
import { listsOf } from "../membership/queries";

const MOST_EXPORTED = 100_000;

const HELD_SHOWN = 100;

/** Stores who has paused the sending of a post, or that it goes on. */
export async function storePaused(
  db: Queries,
  paused: boolean,
  by: string,
  id: string,
): Promise<void> {
  await db
    .update(post)
    .set({ pausedBy: paused ? by : "" })
    .where(eq(post.id, id));
}

/** Queues a copy again that could not be delivered, and returns it. */
export async function queueAgain(db: Queries, postId: string, caller: Caller, address: string) {
  const [found] = await db
    .update(delivery)
    .set({ state: "queued", nextAt: sql`now()`, createdAt: sql`now()`, reply: "" })
    .where(
      and(
        eq(delivery.postId, postId),
        sql`exists (select 1 from ${post} where ${post.id} = ${postId} and ${copiesOf(caller)})`,
        eq(delivery.address, canonicalAddress(address)),
        inArray(delivery.state, ["bounced", "deferred", "cancelled"]),
      ),
    )
    .returning({ id: delivery.id });
  return found;
}

/** Lists which of some posts somebody may decide on. */
export function listDecidable(db: Queries, postIds: readonly string[], caller: Caller) {
  return db
    .select({ id: postList.postId })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(and(inArray(postList.postId, [...postIds]), listsOf(caller)));
}

/** Lists the posts in a list's archive, oldest first. */
export function listArchivedIds(db: Queries, listId: string) {
  return db
    .select({ id: post.id })
    .from(post)
    .innerJoin(postList, eq(postList.postId, post.id))
    .where(
      and(
        eq(postList.listId, listId),
        eq(post.outcome, "goes out"),
        eq(post.reaches, "members"),
        isNull(post.takenOutAt),
      ),
    )
    .orderBy(post.at)
    .limit(MOST_EXPORTED);
}

/** Returns a post as it was sent. */
export async function findRawPost(db: Queries, id: string) {
  const [found] = await db
    .select({ raw: message.raw, from: post.fromAddress, at: post.at })
    .from(post)
    .innerJoin(message, eq(message.id, post.messageId))
    .where(eq(post.id, id));
  return found;
}

/** Lists the held mail that somebody may see. */
export function listHeldPosts(db: Queries, caller: Caller) {
  return db
    .select({
      ...postColumns,
      beginning: post.beginning,
      attachments: post.attachments,
      reasons: post.reasons,
    })
    .from(post)
    .where(and(eq(post.outcome, "held"), visiblePosts(caller)))
    .orderBy(post.at)
    .limit(HELD_SHOWN);
}

/** Returns the outcome of a held mail, and who decided. */
export async function findHeldPost(db: Queries, id: string, caller: Caller) {
  const [found] = await db
    .select({ id: post.id, outcome: post.outcome, by: post.decidedBy })
    .from(post)
    .where(and(eq(post.id, id), visiblePosts(caller)));
  return found;
}

/** Returns a mail as it came. */
export async function findRaw(db: Queries, id: string) {
  const [found] = await db
    .select({ raw: message.raw })
    .from(post)
    .innerJoin(message, eq(message.id, post.messageId))
    .where(eq(post.id, id));
  return found;
}

/** Stores the beginning of a mail's text and the number of its attachments. */
export async function storeBeginning(
  db: Queries,
  beginning: string,
  attachments: number,
  id: string,
): Promise<void> {
  await db.update(post).set({ beginning, attachments }).where(eq(post.id, id));
}

/** Lists the posting rules of the lists that a post went to. */
export function listRules(db: Queries, postId: string) {
  return db
    .select({ rules: list.rules })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(eq(postList.postId, postId));
}

/** Lists the latest posts that meet some conditions. */
export function listShownPosts(db: Queries, conditions: SQL[]) {
  return db
    .select(postColumns)
    .from(post)
    .where(and(...conditions))
    .orderBy(desc(post.at))
    .limit(50);
}

/** Returns a post that somebody may see. */
export async function findVisiblePost(db: Queries, id: string, caller: Caller) {
  const [found] = await db
    .select({
      id: post.id,
      subject: post.subject,
      leavesAt: post.leavesAt,
      accountId: post.accountId,
    })
    .from(post)
    .where(and(eq(post.id, id), visiblePosts(caller)));
  return found;
}

/** Counts the lists of a post, and those that somebody may change. */
export async function countLists(db: Queries, caller: Caller, postId: string) {
  const [found] = await db
    .select({
      lists: count(),
      own: sql<number>`count(*) filter (where ${changeableBy(caller)})`.mapWith(Number),
    })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(eq(postList.postId, postId));
  return found;
}

/** Stores who took a post out of the archive, or that it is back. */
export async function storeTakenOut(
  db: Queries,
  out: boolean,
  by: string,
  id: string,
): Promise<void> {
  await db
    .update(post)
    .set(out ? { takenOutBy: by, takenOutAt: sql`now()` } : { takenOutBy: "", takenOutAt: null })
    .where(eq(post.id, id));
}

/** Returns a post as it was sent, if somebody may see it. */
export function findAttachmentsOf(db: Queries, id: string, caller: Caller) {
  return db
    .select({ raw: message.raw, id: post.id, outcome: post.outcome, reaches: post.reaches })
    .from(post)
    .innerJoin(message, eq(message.id, post.messageId))
    .where(and(eq(post.id, id), visiblePosts(caller)));
}

/** Returns a post with all that its page shows, if somebody may see it. */
export async function findShownPost(db: Queries, id: string, caller: Caller) {
  const [found] = await db
    .select({
      ...postColumns,
      messageRow: post.messageId,
      reasons: post.reasons,
      accountId: post.accountId,
      decidedBy: post.decidedBy,
      decidedAt: post.decidedAt,
      thread: post.thread,
      erasedAt: message.erasedAt,
      size: message.size,
    })
    .from(post)
    .innerJoin(message, eq(message.id, post.messageId))
    .where(and(eq(post.id, id), visiblePosts(caller)));
  return found;
}

/** Lists the copies of a post, as far as somebody may see them. */
export function listCopies(db: Queries, postId: string, accountId: string | null, askerId: string) {
  return db
    .select({
      address: delivery.address,
      listId: delivery.listId,
      state: delivery.state,
      attempts: delivery.attempts,
      reply: delivery.reply,
      sentAt: delivery.sentAt,
      nextAt: delivery.nextAt,
      sort: sql<BounceSort | null>`(select bounce.sort from bounce where bounce.delivery_id = delivery.id order by bounce.id desc limit 1)`,
    })
    .from(delivery)
    .where(
      and(
        eq(delivery.postId, postId),
        accountId === askerId ? undefined : isNotNull(delivery.listId),
      ),
    )
    .orderBy(delivery.address);
}

/** Lists the posts of a conversation that somebody may see. */
export function listThread(db: Queries, thread: string, caller: Caller) {
  return db
    .select({
      id: post.id,
      subject: post.subject,
      fromName: post.fromName,
      fromAddress: post.fromAddress,
      at: post.at,
    })
    .from(post)
    .where(
      and(
        eq(post.thread, thread),
        eq(post.outcome, "goes out"),
        isNull(post.takenOutAt),
        visiblePosts(caller),
      ),
    )
    .orderBy(post.at)
    .limit(200);
}

/** Lists the lists that a post went to. */
export function listListIds(db: Queries, postId: string) {
  return db.select({ id: postList.listId }).from(postList).where(eq(postList.postId, postId));
}

/** Lists the lists that some posts went to. */
export function listListsOfPosts(db: Queries, ids: string[]) {
  return db
    .select({ postId: postList.postId, id: list.id, title: list.title })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(inArray(postList.postId, ids))
    .orderBy(alphabetical(list.title));
}

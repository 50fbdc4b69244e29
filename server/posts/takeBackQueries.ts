import { eq, and, sql, inArray } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { delivery } from "../db/schema/deliveries";
import { draft } from "../db/schema/drafts";
import { list } from "../db/schema/lists";
import { post, digestItem, postList, message, listMessage } from "../db/schema/posts";
import { copiesOf, digestsOf } from "../membership/scope";
import { t } from "../texts/t";

/** Returns the message of a post, locked. */
export async function lockPost(db: Queries, id: string) {
  const [found] = await db
    .select({ messageId: post.messageId })
    .from(post)
    .where(eq(post.id, id))
    .for("update");
  return found;
}

/** Returns the copies of a post, locked. */
export function lockCopies(db: Queries, postId: string) {
  return db
    .select({ id: delivery.id, state: delivery.state, attempts: delivery.attempts })
    .from(delivery)
    .where(eq(delivery.postId, postId))
    .for("update");
}

/** Lists whether a post has gone out by digest. */
export function listSentDigests(db: Queries, postId: string) {
  return db
    .select({ address: digestItem.address })
    .from(digestItem)
    .where(and(eq(digestItem.postId, postId), sql`${digestItem.sentAt} is not null`))
    .limit(1);
}

/** Lists the lists that a post went to. */
export function listListsOfPost(db: Queries, postId: string) {
  return db
    .select({ id: list.id, title: list.title })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(eq(postList.postId, postId));
}

/** Takes a post out of every digest. */
export async function removeDigestItems(db: Queries, postId: string): Promise<void> {
  await db.delete(digestItem).where(eq(digestItem.postId, postId));
}

/** Removes the copies of a post. */
export async function removeCopies(db: Queries, postId: string): Promise<void> {
  await db.delete(delivery).where(eq(delivery.postId, postId));
}

/** Removes to which lists a post went. */
export async function removePostLists(db: Queries, postId: string): Promise<void> {
  await db.delete(postList).where(eq(postList.postId, postId));
}

/** Removes what lists remember of a message. */
export async function removeListMessages(
  db: Queries,
  lists: readonly { id: string }[],
  messageId: string | undefined,
): Promise<void> {
  await db.delete(listMessage).where(
    and(
      inArray(
        listMessage.listId,
        lists.map(({ id }) => id),
      ),
      eq(listMessage.messageId, messageId ?? ""),
    ),
  );
}

/** Removes a post. */
export async function removePost(db: Queries, id: string): Promise<void> {
  await db.delete(post).where(eq(post.id, id));
}

/** Removes a message. */
export async function removeMessage(db: Queries, id: string): Promise<void> {
  await db.delete(message).where(eq(message.id, id));
}

/** Makes a post a draft again, and returns it; undefined where it was none. */
export async function reopenDraft(db: Queries, postId: string) {
  const [found] = await db
    .update(draft)
    .set({ postId: null, changedAt: sql`now()` })
    .where(eq(draft.postId, postId))
    .returning({ id: draft.id });
  return found;
}

/** Cancels the copies of a post that were not sent, as far as somebody may, and returns them. */
export function cancelWaiting(db: Queries, by: Caller, postId: string) {
  return db
    .update(delivery)
    .set({ state: "cancelled", reply: t("posts.cancelledBy", { name: by.name }) })
    .from(post)
    .where(
      and(
        eq(post.id, postId),
        eq(delivery.postId, postId),
        inArray(delivery.state, ["queued", "deferred"]),
        copiesOf(by),
      ),
    )
    .returning({ id: delivery.id });
}

/** Takes a post out of the digests that were not sent, as far as somebody may, and returns them. */
export function cancelDigests(db: Queries, postId: string, by: Caller) {
  return db
    .delete(digestItem)
    .where(
      and(
        eq(digestItem.postId, postId),
        sql`${digestItem.sentAt} is null`,
        sql`exists (select 1 from ${post} where ${post.id} = ${postId} and ${digestsOf(by)})`,
      ),
    )
    .returning({ address: digestItem.address });
}

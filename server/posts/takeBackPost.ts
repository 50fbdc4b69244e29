import { and, eq, inArray, sql } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import { copiesOf, digestsOf } from "../membership/scope";
import { record } from "../journal/record";
import { t } from "../texts/t";
import { list } from "../db/schema/lists";
import { message, post, postList, listMessage, digestItem } from "../db/schema/posts";
import { delivery } from "../db/schema/deliveries";
import { draft } from "../db/schema/drafts";

/** A post as whoever manages it needs it. */
export interface ManagedPost {
  id: string;
  subject: string;
  leavesAt: Date | null;
  accountId: string | null;
}

/**
 * Takes a post back that waits its few seconds: nothing of it stays but a line in the journal, and what was written is a
 * draft again.
 *
 * @throws Refusal 409 once the first copy has left
 */
export async function takeBackPost(
  db: Database,
  own: ManagedPost,
  caller: Caller,
): Promise<{ draft: string | null }> {
  return db.transaction(async (tx) => {
    const [held] = await tx
      .select({ messageId: post.messageId })
      .from(post)
      .where(eq(post.id, own.id))
      .for("update");
    const copies = await tx
      .select({ id: delivery.id, state: delivery.state, attempts: delivery.attempts })
      .from(delivery)
      .where(eq(delivery.postId, own.id))
      .for("update");
    const left = copies.filter(({ state, attempts }) => state !== "queued" || attempts > 0).length;
    const dug = await tx
      .select({ address: digestItem.address })
      .from(digestItem)
      .where(and(eq(digestItem.postId, own.id), sql`${digestItem.sentAt} is not null`))
      .limit(1);
    if (held === undefined || own.leavesAt === null || left > 0 || dug.length > 0)
      throw new Refusal(
        409,
        "post/left",
        left > 0 ? t("posts.leftAlreadyWhatHasNot", { left }) : t("posts.itHasLeftAlready"),
      );
    const lists = await tx
      .select({ id: list.id, title: list.title })
      .from(postList)
      .innerJoin(list, eq(list.id, postList.listId))
      .where(eq(postList.postId, own.id));
    const [stored] = await tx
      .select({ messageId: message.messageId })
      .from(message)
      .where(eq(message.id, held.messageId));
    await tx.delete(digestItem).where(eq(digestItem.postId, own.id));
    await tx.delete(delivery).where(eq(delivery.postId, own.id));
    await tx.delete(postList).where(eq(postList.postId, own.id));
    if (lists.length > 0)
      await tx.delete(listMessage).where(
        and(
          inArray(
            listMessage.listId,
            lists.map(({ id }) => id),
          ),
          eq(listMessage.messageId, stored?.messageId ?? ""),
        ),
      );
    await tx.delete(post).where(eq(post.id, own.id));
    await tx.delete(message).where(eq(message.id, held.messageId));
    const [again] = await tx
      .update(draft)
      .set({ postId: null, changedAt: sql`now()` })
      .where(eq(draft.postId, own.id))
      .returning({ id: draft.id });
    await record(
      tx,
      ...(lists.length === 0 ? [{ id: null }] : lists).map(({ id: listId }) => ({
        actorId: caller.id,
        actor: caller.name,
        action: "take post back" as const,
        listId,
        sentence: t("posts.tookBackBeforeItLeft", { name: caller.name, subject: own.subject }),
      })),
    );
    await notify(tx, "posts", "queue");
    return { draft: again?.id ?? null };
  });
}

/** Cancels the copies of a post that have not left, also those that wait for a digest, as far as they are the caller's to cancel. Answers how many. */
export async function cancelCopies(db: Queries, postId: string, by: Caller): Promise<number> {
  const gone = await db
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
  const dug = await db
    .delete(digestItem)
    .where(
      and(
        eq(digestItem.postId, postId),
        sql`${digestItem.sentAt} is null`,
        sql`exists (select 1 from ${post} where ${post.id} = ${postId} and ${digestsOf(by)})`,
      ),
    )
    .returning({ address: digestItem.address });
  return gone.length + dug.length;
}

import { refused, type Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import type { Caller } from "../callers/caller";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { t } from "../texts/t";
import {
  lockPost,
  lockCopies,
  listSentDigests,
  listListsOfPost,
  removeDigestItems,
  removeCopies,
  removePostLists,
  removeListMessages,
  removePost,
  removeMessage,
  reopenDraft,
  cancelWaiting,
  cancelDigests,
} from "./takeBackQueries";
import { findMessageIdOf } from "../posting/heldQueries";

/** A post as whoever manages it needs it. */
export interface ManagedPost {
  id: string;
  subject: string;
  leavesAt: Date | null;
  accountId: string | null;
}

/**
 * Takes a post back that waits its few seconds: none of it stays but a line in the journal, and what was written is a
 * draft again.
 *
 * Refused with 409 once the first copy has left.
 */
export async function takeBackPost(
  db: Database,
  managedPost: ManagedPost,
  caller: Caller,
): Promise<{ draft: string | null } | Refused> {
  return inTransaction(db, async (tx) => {
    const held = await lockPost(tx, managedPost.id);
    const copies = await lockCopies(tx, managedPost.id);
    const left = copies.filter(({ state, attempts }) => state !== "queued" || attempts > 0).length;
    const dug = await listSentDigests(tx, managedPost.id);
    if (held === undefined || managedPost.leavesAt === null || left > 0 || dug.length > 0)
      return refused(
        409,
        "post/left",
        left > 0 ? t("posts.leftAlreadyWhatHasNot", { left }) : t("posts.itHasLeftAlready"),
      );
    const lists = await listListsOfPost(tx, managedPost.id);
    const stored = await findMessageIdOf(tx, held.messageId);
    await removeDigestItems(tx, managedPost.id);
    await removeCopies(tx, managedPost.id);
    await removePostLists(tx, managedPost.id);
    if (lists.length > 0) await removeListMessages(tx, lists, stored?.messageId);
    await removePost(tx, managedPost.id);
    await removeMessage(tx, held.messageId);
    const again = await reopenDraft(tx, managedPost.id);
    await record(
      tx,
      ...(lists.length === 0 ? [{ id: null }] : lists).map(({ id: listId }) => ({
        actorId: caller.id,
        actor: caller.name,
        action: "take post back" as const,
        listId,
        sentence: () =>
          t("posts.tookBackBeforeItLeft", {
            name: caller.name,
            subject: managedPost.subject,
          }),
      })),
    );
    await notify(tx, "posts", "queue");
    return { draft: again?.id ?? null };
  });
}

/** Cancels the copies of a post that have not left, also those that wait for a digest, as far as they are the caller's to cancel. Returns how many. */
export async function cancelCopies(db: Queries, postId: string, by: Caller): Promise<number> {
  const gone = await cancelWaiting(db, by, postId);
  const dug = await cancelDigests(db, postId, by);
  return gone.length + dug.length;
}

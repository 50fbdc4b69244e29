import { eq, and, isNull, count } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { delivery } from "../db/schema/deliveries";
import { draft } from "../db/schema/drafts";
import { post } from "../db/schema/posts";
import { contentOf } from "./contentOf";

/** Returns the outcome of a post that was sent with a key. */
export async function findSent(db: Queries, id: string, accountId: string) {
  const [found] = await db
    .select({ id: post.id, outcome: post.outcome, addresses: count(delivery.id) })
    .from(post)
    .leftJoin(delivery, eq(delivery.postId, post.id))
    .where(and(eq(post.id, id), eq(post.accountId, accountId)))
    .groupBy(post.id);
  return found;
}

/** Stores a post that is sent through the API as a draft. */
export async function storeDraftOf(
  db: Queries,
  body: Parameters<typeof contentOf>[0] & { key: string; subject: string },
  accountId: string,
): Promise<void> {
  await db
    .insert(draft)
    .values({
      id: body.key,
      accountId,
      content: { ...contentOf(body), subject: body.subject },
    })
    .onConflictDoNothing();
}

/** Returns the draft with a key. */
export async function findDraftOf(db: Queries, id: string, accountId: string) {
  const [found] = await db
    .select()
    .from(draft)
    .where(and(eq(draft.id, id), eq(draft.accountId, accountId)));
  return found;
}

/** Removes a draft that was not sent. */
export async function removeUnsent(db: Queries, id: string): Promise<void> {
  await db.delete(draft).where(and(eq(draft.id, id), isNull(draft.postId)));
}

import { eq, inArray, sql, and, count } from "drizzle-orm";
import type { PostLine } from "@amigo/contract/posts";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { delivery } from "../db/schema/deliveries";
import { post, digestItem } from "../db/schema/posts";
import { copiesOf, digestsOf } from "../membership/scope";
import { listListsOfPosts } from "./queries";

export async function withLists(
  db: Queries,
  caller: Caller,
  rows: readonly {
    id: string;
    subject: string;
    fromName: string;
    fromAddress: string;
    at: Date;
    outcome: PostLine["outcome"];
    reaches: PostLine["reaches"];
    leavesAt: Date | null;
    pausedBy: string;
    takenOutBy: string;
  }[],
): Promise<PostLine[]> {
  if (rows.length === 0) return [];
  const ids = rows.map(({ id }) => id);
  const lists = await listListsOfPosts(db, ids);
  const counts = await db
    .select({
      postId: delivery.postId,
      state: delivery.state,
      count: sql<number>`count(*)`.mapWith(Number),
    })
    .from(delivery)
    .innerJoin(post, eq(post.id, delivery.postId))
    .where(and(inArray(delivery.postId, ids), copiesOf(caller)))
    .groupBy(delivery.postId, delivery.state);
  const digests = new Map(
    (
      await db
        .select({ postId: digestItem.postId, count: count() })
        .from(digestItem)
        .innerJoin(post, eq(post.id, digestItem.postId))
        .where(and(inArray(digestItem.postId, ids), digestsOf(caller)))
        .groupBy(digestItem.postId)
    ).map((row) => [row.postId, row.count]),
  );
  const now = Date.now();
  return rows.map((row) => {
    const of = (...states: string[]): number =>
      counts
        .filter(({ postId, state }) => postId === row.id && states.includes(state))
        .reduce((sum, { count }) => sum + count, 0);
    return {
      id: row.id,
      subject: row.subject,
      from: row.fromName || row.fromAddress,
      at: row.at.toISOString(),
      outcome: row.outcome,
      reaches: row.reaches,
      leavesAt:
        row.leavesAt !== null && row.leavesAt.getTime() > now ? row.leavesAt.toISOString() : null,
      pausedBy: row.pausedBy,
      takenOutBy: row.takenOutBy,
      lists: lists
        .filter(({ postId }) => postId === row.id)
        .map(({ id, title }) => ({ id, title })),
      deliveries: {
        waiting: of("queued", "sending"),
        sent: of("sent"),
        deferred: of("deferred"),
        bounced: of("bounced"),
        cancelled: of("cancelled"),
        digests: digests.get(row.id) ?? 0,
      },
    };
  });
}

import { sql, and, eq } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { list } from "../db/schema/lists";
import { post, postList, message } from "../db/schema/posts";
import type { HeldDecision } from "./queries";

export const BECOMES = { "let out": "goes out", return: "returned", drop: "dropped" } as const;

/** Stores what was decided on a held mail, and returns it; undefined where somebody has decided already. */
export async function markHeldDecided(
  db: Queries,
  decision: HeldDecision,
  decidedBy: string,
  word: string,
  postId: string,
) {
  const [found] = await db
    .update(post)
    .set({
      outcome: BECOMES[decision],
      decidedBy,
      decidedAt: sql`now()`,
      ...(word === "" ? {} : { reasons: sql`${post.reasons} || ${word}::text` }),
    })
    .where(and(eq(post.id, postId), eq(post.outcome, "held")))
    .returning();
  return found;
}

/** Lists the lists that a post is to. */
export function listPostLists(db: Queries, postId: string) {
  return db
    .select({ id: list.id, title: list.title, name: list.name })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(eq(postList.postId, postId));
}

/** Returns a held mail, locked, or undefined. */
export async function lockHeld(db: Queries, postId: string) {
  const [found] = await db
    .select()
    .from(post)
    .where(and(eq(post.id, postId), eq(post.outcome, "held")))
    .for("update");
  return found;
}

/** Returns the list that a held mail is to. */
export async function findPostList(db: Queries, postId: string) {
  const [found] = await db
    .select({
      id: list.id,
      rules: list.rules,
      closedAt: list.closedAt,
      siteId: list.siteId,
      title: list.title,
      name: list.name,
    })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(eq(postList.postId, postId));
  return found;
}

/** Returns a message as it came. */
export async function findRawOf(db: Queries, id: string) {
  const [found] = await db.select({ raw: message.raw }).from(message).where(eq(message.id, id));
  return found;
}

/** Stores what the rules say of a mail after its writer has confirmed it. */
export async function storeVerdict(
  db: Queries,
  outcome: "dropped" | "held" | "returned" | "goes out",
  reaches: "leads" | "members",
  reasons: string[],
  isDecided: boolean,
  fromName: string,
  fromAddress: string,
  postId: string,
): Promise<void> {
  await db
    .update(post)
    .set({
      outcome,
      reaches,
      reasons,
      ...(isDecided ? { decidedBy: fromName || fromAddress, decidedAt: sql`now()` } : {}),
    })
    .where(eq(post.id, postId));
}

/** Returns the Message-ID of a message. */
export async function findMessageIdOf(db: Queries, id: string) {
  const [found] = await db
    .select({ messageId: message.messageId })
    .from(message)
    .where(eq(message.id, id));
  return found;
}

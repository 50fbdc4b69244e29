import { and, asc, eq, inArray, isNull, sql } from "drizzle-orm";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { shelfComment, shelfFollower } from "../db/schema/shelf";
import type { Author } from "./author";

/** Lists what is said about a thing, in order. */
export function listComments(db: Queries, thing: string) {
  return db
    .select()
    .from(shelfComment)
    .where(eq(shelfComment.thingId, thing))
    .orderBy(asc(shelfComment.at), asc(shelfComment.id));
}

export type CommentRow = Awaited<ReturnType<typeof listComments>>[number];

/** Counts for some things what is said about each, without what was taken out. */
export async function countComments(
  db: Queries,
  things: readonly string[],
): Promise<Map<string, number>> {
  if (things.length === 0) return new Map();
  const rows = await db
    .select({ id: shelfComment.thingId, count: sql<number>`count(*)::int` })
    .from(shelfComment)
    .where(and(inArray(shelfComment.thingId, [...things]), isNull(shelfComment.takenOutBy)))
    .groupBy(shelfComment.thingId);
  return new Map(rows.map(({ id, count }) => [id, count]));
}

/** Stores what somebody says about a thing. */
export async function storeComment(
  tx: Queries,
  thingId: string,
  { name, accountId, address }: Author,
  content: string,
): Promise<void> {
  await tx.insert(shelfComment).values({ thingId, name, accountId, address, content });
}

/** Takes out a comment of a thing: its words are gone, and that it was there stays. Returns whether there was one. */
export async function emptyComment(
  tx: Queries,
  thingId: string,
  id: string,
  takenOutBy: string,
): Promise<boolean> {
  const rows = await tx
    .update(shelfComment)
    .set({ content: "", takenOutBy })
    .where(
      and(
        eq(shelfComment.id, id),
        eq(shelfComment.thingId, thingId),
        isNull(shelfComment.takenOutBy),
      ),
    )
    .returning({ id: shelfComment.id });
  return rows.length === 1;
}

/** Stores whether somebody wants to be told what others say about a thing. */
export async function storeFollowing(
  tx: Queries,
  thingId: string,
  address: string,
  accountId: string | null,
  follows: boolean,
): Promise<void> {
  if (follows)
    await tx.insert(shelfFollower).values({ thingId, address, accountId }).onConflictDoNothing();
  else
    await tx
      .delete(shelfFollower)
      .where(and(eq(shelfFollower.thingId, thingId), eq(shelfFollower.address, address)));
}

/** Lists who wants to be told what others say about a thing; accounts as long as they are in force. */
export function listFollowers(db: Queries, thing: string) {
  return db
    .select({
      address: shelfFollower.address,
      account: {
        id: account.id,
        name: account.name,
        email: account.email,
        role: account.role,
        siteId: account.siteId,
      },
    })
    .from(shelfFollower)
    .leftJoin(account, and(eq(account.id, shelfFollower.accountId), accountInForce))
    .where(eq(shelfFollower.thingId, thing))
    .orderBy(asc(shelfFollower.address));
}

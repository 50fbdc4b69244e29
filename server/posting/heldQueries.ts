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

/** A held mail of which somebody who decides on it has not been told. */
export interface UntoldOfHeld extends Record<string, unknown> {
  post: string;
  subject: string;
  from_name: string;
  from_address: string;
  title: string;
  /** The name of its list. */
  list: string;
  account: string;
  name: string;
  email: string;
}

/** The list that a held mail is to, joined to `post` as `list`. */
export const listOfHeld = sql`
  join lateral (select list.id, list.title, list.name from post_list join list on list.id = post_list.list_id where post_list.post_id = post.id order by list.title limit 1) as list on true`;

/** That an account decides on a held mail of `list`: a lead or helper, or a coordinator where it has none who can sign in; never its sender. */
export const decidersOfHeld = sql`(account.ended_at is null or account.ended_at > now()) and account.email <> post.from_address and (
        exists (select 1 from list_role where list_role.list_id = list.id and list_role.account_id = account.id)
        or (account.role = 'coordinator' and not exists (
          select 1 from list_role join account as runs on runs.id = list_role.account_id
          where list_role.list_id = list.id and (runs.ended_at is null or runs.ended_at > now()))))`;

/**
 * Lists who has not been told of which held mail: the leads and helpers of its list, or coordinators where it has none who can
 * sign in; never its sender. The oldest comes first.
 *
 * @param postId  one mail alone; undefined for all
 * @param account one account alone; undefined for all
 */
export async function listUntoldOfHeld(
  db: Queries,
  postId: string | undefined,
  account?: string,
): Promise<UntoldOfHeld[]> {
  const { rows } = await db.execute<UntoldOfHeld>(sql`
    select post.id as post, post.subject, post.from_name, post.from_address, list.title, list.name as list,
      account.id as account, account.name, account.email
    from post ${listOfHeld} join account on ${decidersOfHeld}
    where post.outcome = 'held'
      and ${postId === undefined ? sql`true` : sql`post.id = ${postId}::uuid`}
      and ${account === undefined ? sql`true` : sql`account.id = ${account}::uuid`}
      and not exists (select 1 from mailed_link where mailed_link.purpose = 'held mail' and mailed_link.address = account.email and mailed_link.about = post.id || ' ' || account.id)
    order by post.at, account.email`);
  return rows;
}

/** Makes others who would tell the same person of held mail wait until this transaction ends. */
export async function lockTelling(db: Queries, email: string): Promise<void> {
  await db.execute(
    sql`select pg_advisory_xact_lock(hashtextextended(${`amigo held ${email}`}, 0))`,
  );
}

/** Returns whether somebody was told of held mail within the last hour. */
export async function wasToldLately(db: Queries, email: string): Promise<boolean> {
  const { rows } = await db.execute(sql`
    select 1 from mailed_link where purpose = 'held mail' and address = ${email} and created_at > now() - interval '1 hour' limit 1`);
  return rows.length > 0;
}

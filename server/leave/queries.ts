import { sql, eq, and, isNull } from "drizzle-orm";
import type { HouseRole } from "@amigo/core/access/may";
import { accountInForce } from "../callers/inForce";
import { hashToken } from "../callers/tokens";
import type { Queries, Database } from "../db/connect";
import { account } from "../db/schema/accounts";
import { delivery } from "../db/schema/deliveries";
import { house } from "../db/schema/house";
import { list, membership, listRole, greeting } from "../db/schema/lists";
import { post, postList, message } from "../db/schema/posts";
import { askedBy as isAskedBy } from "../membership/greet";
import { isRecent } from "../posting/leaveToken";
import { listsOf } from "../membership/queries";

/** Returns the title of a list and the name of the house. */
export function findListToLeave(db: Queries, id: string) {
  return db
    .select({ title: list.title, house: house.name })
    .from(list)
    .innerJoin(house, sql`true`)
    .where(eq(list.id, id));
}

/** Returns a mail that waits for its writer to confirm it. */
export function findOwnMail(db: Queries, id: string) {
  return db
    .select({
      subject: post.subject,
      outcome: post.outcome,
      title: list.title,
      house: house.name,
    })
    .from(post)
    .innerJoin(postList, eq(postList.postId, post.id))
    .innerJoin(list, eq(list.id, postList.listId))
    .innerJoin(house, sql`true`)
    .where(eq(post.id, id));
}

/** Returns the account with an id while it can sign in, or undefined. */
export async function findDecider(db: Queries, id: string) {
  const [found] = await db
    .select({
      id: account.id,
      name: account.name,
      email: account.email,
      role: account.role,
      siteId: account.siteId,
    })
    .from(account)
    .where(and(eq(account.id, id), accountInForce));
  return found;
}

/** Returns a held mail on which somebody may decide, or undefined. */
export async function findHeldMail(
  db: Queries,
  postId: string,
  by: { id: string; name: string; email: string; role: HouseRole; siteId: number | null },
) {
  const [found] = await db
    .select({
      subject: post.subject,
      fromName: post.fromName,
      fromAddress: post.fromAddress,
      reasons: post.reasons,
      title: list.title,
      raw: message.raw,
    })
    .from(post)
    .innerJoin(message, eq(message.id, post.messageId))
    .innerJoin(postList, eq(postList.postId, post.id))
    .innerJoin(list, eq(list.id, postList.listId))
    .where(and(eq(post.id, postId), eq(post.outcome, "held"), listsOf({ ...by, by: "session" })));
  return found;
}

/** Returns the list and address of a copy of a post, and whether the address is still on the list. */
export async function findCopy(db: Queries, id: number) {
  const [found] = await db
    .select({
      listId: list.id,
      title: list.title,
      address: delivery.address,
      house: house.name,
      member: membership.id,
      rules: list.rules,
    })
    .from(delivery)
    .innerJoin(list, eq(list.id, delivery.listId))
    .innerJoin(house, sql`true`)
    .leftJoin(
      membership,
      and(
        eq(membership.listId, delivery.listId),
        eq(membership.address, delivery.address),
        isNull(membership.validUntil),
      ),
    )
    .where(and(eq(delivery.id, id), isRecent));
  return found;
}

/** Lists the leads of a list, also those who can't sign in. */
export function listLeadsOf(db: Queries, listId: string) {
  return db
    .select({ name: account.name, email: account.email })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .where(and(eq(listRole.listId, listId), eq(listRole.role, "lead")));
}

/** Whether the question behind a link still waits for its answer, and of which list it is. */
export async function askedBy(db: Database, token: string) {
  const [found] = await db
    .select({
      id: greeting.id,
      address: greeting.address,
      answer: greeting.answer,
      title: list.title,
      house: house.name,
      closedAt: list.closedAt,
    })
    .from(greeting)
    .innerJoin(list, eq(list.id, greeting.listId))
    .innerJoin(house, sql`true`)
    .where(isAskedBy(hashToken(token)));
  return found;
}

import { type SQL, and, eq, or, sql, desc, inArray, isNotNull } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { delivery } from "../db/schema/deliveries";
import { headOfNote } from "../posting/subjectOfNote";
import { membership, list } from "../db/schema/lists";
import { fact } from "../db/schema/people";
import { post, message } from "../db/schema/posts";
import { factColumns } from "../facts/queries";
import { listsOf } from "../membership/queries";
import { MOST } from "./queries";

/** Lists the facts about a person and their families, also those that ended. */
export function listFactHistory(
  db: Queries,
  seasonId: number,
  person: string,
  within: SQL<unknown> | undefined,
) {
  return db
    .select({
      ...factColumns,
      from: fact.validFrom,
      until: fact.validUntil,
      fromRound: fact.fromRound,
      untilRound: fact.untilRound,
    })
    .from(fact)
    .where(
      and(
        eq(fact.seasonId, seasonId),
        or(eq(fact.subject, person), and(eq(fact.kind, "tie"), eq(fact.ref, person))),
        within === undefined
          ? undefined
          : sql`(${fact.kind} <> 'tie' or (${fact.subject} in ${within} and ${fact.ref} in ${within}))`,
      ),
    )
    .orderBy(desc(fact.validFrom))
    .limit(MOST);
}

/** Lists the memberships of some addresses, also those that ended. */
export function listMembershipHistory(db: Queries, addresses: string[], caller: Caller) {
  return db
    .select({
      address: membership.address,
      title: list.title,
      from: membership.validFrom,
      until: membership.validUntil,
      fromRound: membership.fromRound,
      untilRound: membership.untilRound,
    })
    .from(membership)
    .innerJoin(list, eq(list.id, membership.listId))
    .where(and(inArray(membership.address, addresses), listsOf(caller)))
    .orderBy(desc(membership.validFrom))
    .limit(MOST);
}

/** Lists the mails that were sent to some addresses. */
export function listMailsTo(
  db: Queries,
  isWhole: boolean,
  addresses: readonly string[],
  caller: Caller,
) {
  return db
    .select({
      address: delivery.address,
      at: sql<Date>`coalesce(${delivery.sentAt}, ${delivery.createdAt})`.mapWith(
        delivery.createdAt,
      ),
      state: delivery.state,
      subject: post.subject,
      by: post.fromName,
      byId: post.accountId,
      title: list.title,
      isDigest: delivery.isDigest,
      head: isWhole ? headOfNote : sql<null>`null`,
    })
    .from(delivery)
    .innerJoin(message, eq(message.id, delivery.messageId))
    .leftJoin(post, eq(post.id, delivery.postId))
    .leftJoin(list, eq(list.id, delivery.listId))
    .where(
      and(
        inArray(delivery.address, [...addresses]),
        isWhole ? undefined : and(isNotNull(delivery.listId), listsOf(caller)),
      ),
    )
    .orderBy(desc(delivery.id))
    .limit(MOST);
}

/** Lists the names of some people, classes and so on, as far as known. */
export function listNamesOf(db: Queries, seasonId: number, ids: string[]) {
  return db
    .select(factColumns)
    .from(fact)
    .where(
      and(
        eq(fact.seasonId, seasonId),
        inArray(fact.kind, ["name", "cohort"]),
        inArray(fact.subject, ids),
      ),
    )
    .orderBy(fact.validFrom);
}

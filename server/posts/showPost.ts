import { eq, and, sql, isNotNull, isNull } from "drizzle-orm";
import { type getPost } from "@amigo/contract/posts";
import type { BounceSort } from "@amigo/core/mail/bounces/form";
import { isForGood } from "@amigo/core/mail/bounces/sortOf";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { delivery } from "../db/schema/deliveries";
import { post, message } from "../db/schema/posts";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { loadList } from "../membership/loadList";
import { visiblePosts, seesMembers } from "../membership/scope";
import { whoBelongs } from "../membership/whoBelongs";
import { showMessage } from "../posting/showMessage";
import { decidableHeld } from "./decidableHeld";
import { isKept } from "./isKept";
import { mayManage } from "./mayManage";
import { postColumns } from "./postColumns";
import { withLists } from "./withLists";

export async function showPost(
  { db }: Context,
  { params, caller }: Request<typeof getPost>,
): Promise<Answer<typeof getPost>> {
  const [found] = await db
    .select({
      ...postColumns,
      messageRow: post.messageId,
      reasons: post.reasons,
      accountId: post.accountId,
      decidedBy: post.decidedBy,
      decidedAt: post.decidedAt,
      thread: post.thread,
      erasedAt: message.erasedAt,
      size: message.size,
    })
    .from(post)
    .innerJoin(message, eq(message.id, post.messageId))
    .where(and(eq(post.id, params.id), visiblePosts(caller)));
  if (found === undefined) throw notFound("post");
  const [line] = await withLists(db, caller, [found]);
  const [raw] = await db
    .select({ raw: message.raw })
    .from(message)
    .where(eq(message.id, found.messageRow));
  const kept = found.erasedAt === null && (await isKept(db, found));
  const shown =
    raw === undefined || !kept
      ? { text: "", html: "", attachments: [] }
      : await showMessage(raw.raw);
  const all = await db
    .select({
      address: delivery.address,
      listId: delivery.listId,
      state: delivery.state,
      attempts: delivery.attempts,
      reply: delivery.reply,
      sentAt: delivery.sentAt,
      nextAt: delivery.nextAt,
      sort: sql<BounceSort | null>`(select bounce.sort from bounce where bounce.delivery_id = delivery.id order by bounce.id desc limit 1)`,
    })
    .from(delivery)
    .where(
      and(
        eq(delivery.postId, found.id),
        found.accountId === caller.id ? undefined : isNotNull(delivery.listId),
      ),
    )
    .orderBy(delivery.address);
  const seen = await seesMembers(db, caller, [
    ...new Set(all.flatMap(({ listId }) => listId ?? [])),
  ]);
  const rows = all.filter(({ listId }) => listId === null || seen.has(listId));
  const names = await namesByAddress(db, caller, [
    ...new Set(rows.flatMap(({ listId }) => (listId === null ? [] : [listId]))),
  ]);
  if (line === undefined) throw notFound("post");
  return {
    ...line,
    fromAddress: found.fromAddress,
    reasons: found.reasons,
    ...shown,
    kept,
    decided:
      found.decidedAt === null ? null : { by: found.decidedBy, at: found.decidedAt.toISOString() },
    mayManage: await mayManage(db, caller, found, "a list"),
    mayManageAll: await mayManage(db, caller, found, "all"),
    thread: await threadOf(db, caller, found),
    mayDecide:
      found.outcome === "held" && (await decidableHeld(db, caller, [found.id])).has(found.id),
    recipients: rows.map(({ address, state, attempts, reply, sentAt, nextAt, sort }) => ({
      retry:
        state === "deferred" ||
        state === "cancelled" ||
        (state === "bounced" && (sort === null || !isForGood(sort))),
      address,
      people: names.get(address) ?? "",
      state,
      attempts,
      reply,
      at: sentAt?.toISOString() ?? null,
      nextAt: state === "deferred" ? nextAt.toISOString() : null,
    })),
  };
}

/** The other posts of a thread that somebody may see, the oldest first; none where it is alone. */
async function threadOf(db: Queries, caller: Caller, { thread }: { thread: string | null }) {
  if (thread === null) return [];
  const rows = await db
    .select({
      id: post.id,
      subject: post.subject,
      fromName: post.fromName,
      fromAddress: post.fromAddress,
      at: post.at,
    })
    .from(post)
    .where(
      and(
        eq(post.thread, thread),
        eq(post.outcome, "goes out"),
        isNull(post.takenOutAt),
        visiblePosts(caller),
      ),
    )
    .orderBy(post.at)
    .limit(200);
  return rows.length < 2
    ? []
    : rows.map(({ id, subject, fromName, fromAddress, at }) => ({
        id,
        subject,
        from: fromName || fromAddress,
        at: at.toISOString(),
      }));
}

/** Names of the people behind the addresses of some lists. */
async function namesByAddress(
  db: Queries,
  caller: Caller,
  lists: readonly string[],
): Promise<Map<string, string>> {
  const names = new Map<string, Set<string>>();
  for (const id of lists) {
    const found = await loadList(db, id, caller).catch(() => undefined);
    if (found === undefined) continue;
    for (const { name, addresses } of await whoBelongs(db, found))
      for (const address of addresses)
        names.set(address, (names.get(address) ?? new Set<string>()).add(name));
  }
  return new Map([...names].map(([address, people]) => [address, [...people].join(", ")]));
}

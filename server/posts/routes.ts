import { simpleParser } from "mailparser";
import { and, count, desc, eq, inArray, isNotNull, isNull, lt, sql, type SQL } from "drizzle-orm";
import type { Hono } from "hono";
import { getPost, getPosts, postPost, postReckon, type PostLine } from "@amigo/contract/posts";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { cohort, delivery, house, list, membership, message, post, postList } from "../db/schema";
import { notFound, Refusal } from "../http/fault";
import { route } from "../http/route";
import { peoplePrivately } from "../membership/knownPeople";
import { loadList } from "../membership/loadList";
import { listsOf } from "../membership/scope";
import { whoBelongs } from "../membership/whoBelongs";
import { composeMail } from "../posting/composeMail";
import { acceptPost, storeMessage } from "../posting/acceptPost";
import { judge } from "../posting/judge";

export function postRoutes(app: Hono, context: Context): void {
  const { db } = context;

  route(app, context, getPosts, async ({ query, caller }) => {
    if (query.list !== undefined) await loadList(db, query.list, caller);
    const conditions: SQL[] = [visiblePosts(caller)];
    if (query.list !== undefined) conditions.push(sql`exists (select 1 from ${postList} where ${postList.postId} = ${post.id} and ${postList.listId} = ${query.list})`);
    if (query.before !== undefined) conditions.push(lt(post.at, new Date(query.before)));
    const rows = await db.select(postColumns).from(post).where(and(...conditions)).orderBy(desc(post.at)).limit(50);
    return withLists(db, rows);
  });

  route(app, context, getPost, async ({ params, caller }) => {
    const [found] = await db.select({ ...postColumns, messageRow: post.messageId, reasons: post.reasons, accountId: post.accountId }).from(post).where(and(eq(post.id, params.id), visiblePosts(caller)));
    if (found === undefined) throw notFound("post");
    const [line] = await withLists(db, [found]);
    const [raw] = await db.select({ raw: message.raw }).from(message).where(eq(message.id, found.messageRow));
    const parsed = raw === undefined ? undefined : await simpleParser(raw.raw, { skipImageLinks: true, skipHtmlToText: false });
    const rows = await db.select({ address: delivery.address, listId: delivery.listId, state: delivery.state, attempts: delivery.attempts, reply: delivery.reply, sentAt: delivery.sentAt, nextAt: delivery.nextAt }).from(delivery).where(and(eq(delivery.postId, found.id), found.accountId === caller.id ? undefined : isNotNull(delivery.listId))).orderBy(delivery.address);
    const names = await namesByAddress(db, caller, [...new Set(rows.flatMap(({ listId }) => (listId === null ? [] : [listId])))]);
    if (line === undefined) throw notFound("post");
    return {
      ...line, fromAddress: found.fromAddress, reasons: found.reasons, text: parsed?.text ?? "",
      recipients: rows.map(({ address, state, attempts, reply, sentAt, nextAt }) => ({ address, people: names.get(address) ?? "", state, attempts, reply, at: sentAt?.toISOString() ?? null, nextAt: state === "deferred" ? nextAt.toISOString() : null })),
    };
  });

  route(app, context, postReckon, async ({ body, caller }) => {
    const addresses = new Map<string, number>();
    const families = new Set<string>();
    const unreachable = new Set<string>();
    const refused: string[] = [];
    for (const id of new Set(body.lists)) {
      const found = await loadList(db, id, caller, true);
      const { verdict } = await judge(db, found, caller.email, "signed-in");
      if (verdict.outcome !== "goes out") { refused.push(`${found.title}: ${verdict.reasons.map(({ sentence }) => sentence).join(" ")}`); continue; }
      const rows = await db.select({ address: membership.address }).from(membership).where(and(eq(membership.listId, id), isNull(membership.validUntil)));
      for (const { address } of rows) addresses.set(address, (addresses.get(address) ?? 0) + 1);
      for (const own of await whoBelongs(db, found)) (own.addresses.some((address) => addresses.has(address)) ? families : unreachable).add(own.family);
    }
    for (const { family, addresses: own } of await peoplePrivately(db, body.privately, caller)) {
      for (const address of own) addresses.set(address, (addresses.get(address) ?? 0) + 1);
      (own.length > 0 ? families : unreachable).add(family);
    }
    return { addresses: addresses.size, families: families.size, unreachable: [...unreachable].filter((family) => !families.has(family)).length, twice: [...addresses.values()].filter((count) => count > 1).length, refused };
  });

  route(app, context, postPost, async ({ body, caller }) => {
    const lists = await Promise.all([...new Set(body.lists)].map((id) => loadList(db, id, caller, true)));
    if (lists.length + body.privately.length === 0) throw new Refusal(400, "bad-request", "Choose a list to write to.", "lists");
    const privately = [...new Set((await peoplePrivately(db, body.privately, caller)).flatMap(({ addresses }) => addresses))];
    if (lists.length === 0 && privately.length === 0) throw new Refusal(422, "post/nobody", "Nobody on that private list can be reached by mail.", "lists");
    const reasons: string[] = [];
    for (const own of lists) {
      const { verdict } = await judge(db, own, caller.email, "signed-in");
      reasons.push(...verdict.reasons.map(({ sentence }) => sentence));
      if (verdict.outcome !== "goes out") throw new Refusal(403, "post/refused", `${own.title}: ${verdict.reasons.map(({ sentence }) => sentence).join(" ")}`, "lists");
    }
    const [own] = await db.select({ listDomain: house.listDomain }).from(house);
    const domain = own?.listDomain ?? "localhost";
    const { raw, messageId } = await composeMail({ from: { name: caller.name, address: caller.email }, to: lists.length === 0 ? [{ name: caller.name, address: caller.email }] : lists.map(({ title, name }) => ({ name: title, address: `${name}@${domain}` })), subject: body.subject, text: body.text, domain });
    return db.transaction(async (tx) => {
      await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${body.key}, 0))`);
      const [before] = await tx.select({ id: post.id, addresses: count(delivery.id) }).from(post).leftJoin(delivery, eq(delivery.postId, post.id)).where(and(eq(post.id, body.key), eq(post.accountId, caller.id))).groupBy(post.id);
      if (before !== undefined) return before;
      const messageRow = await storeMessage(tx, raw, messageId);
      return acceptPost(tx, { id: body.key, messageRow, messageId, subject: body.subject, from: { name: caller.name, address: caller.email }, accountId: caller.id, lists: lists.map(({ id }) => id), reasons, privately });
    });
  });
}

const postColumns = { id: post.id, subject: post.subject, fromName: post.fromName, fromAddress: post.fromAddress, at: post.at, outcome: post.outcome };

/** The posts that somebody may see: their own, and those of lists that they may see. */
function visiblePosts(caller: Caller): SQL {
  return sql`(${post.accountId} = ${caller.id} or exists (select 1 from ${postList} join ${list} on ${list.id} = ${postList.listId} left join ${cohort} on ${cohort.id} = ${list.cohortId} where ${postList.postId} = ${post.id} and ${listsOf(caller)}))`;
}

async function withLists(db: Queries, rows: readonly { id: string; subject: string; fromName: string; fromAddress: string; at: Date; outcome: PostLine["outcome"] }[]): Promise<PostLine[]> {
  if (rows.length === 0) return [];
  const ids = rows.map(({ id }) => id);
  const lists = await db.select({ postId: postList.postId, id: list.id, title: list.title }).from(postList).innerJoin(list, eq(list.id, postList.listId)).where(inArray(postList.postId, ids)).orderBy(list.title);
  const counts = await db.select({ postId: delivery.postId, state: delivery.state, count: sql<number>`count(*)`.mapWith(Number) }).from(delivery).where(inArray(delivery.postId, ids)).groupBy(delivery.postId, delivery.state);
  return rows.map((row) => {
    const of = (...states: string[]): number => counts.filter(({ postId, state }) => postId === row.id && states.includes(state)).reduce((sum, { count }) => sum + count, 0);
    return {
      id: row.id, subject: row.subject, from: row.fromName || row.fromAddress, at: row.at.toISOString(), outcome: row.outcome,
      lists: lists.filter(({ postId }) => postId === row.id).map(({ id, title }) => ({ id, title })),
      deliveries: { waiting: of("queued", "sending"), sent: of("sent"), deferred: of("deferred"), bounced: of("bounced"), cancelled: of("cancelled") },
    };
  });
}

/** Names of the people behind the addresses of some lists. */
async function namesByAddress(db: Queries, caller: Caller, lists: readonly string[]): Promise<Map<string, string>> {
  const names = new Map<string, Set<string>>();
  for (const id of lists) {
    const found = await loadList(db, id, caller).catch(() => undefined);
    if (found === undefined) continue;
    for (const { name, addresses } of await whoBelongs(db, found)) for (const address of addresses) names.set(address, (names.get(address) ?? new Set<string>()).add(name));
  }
  return new Map([...names].map(([address, people]) => [address, [...people].join(", ")]));
}

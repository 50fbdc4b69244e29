import { and, count, desc, eq, inArray, isNotNull, isNull, lt, sql, type SQL } from "drizzle-orm";
import type { Hono } from "hono";
import { may } from "@amigo/core/access/may";
import { PLAIN_MESSAGE } from "@amigo/core/posting/mailToJudge";
import { getHeld, getPost, getPosts, postHeld, postPost, postReckon, type PostLine } from "@amigo/contract/posts";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { cohort, delivery, house, list, membership, message, post, postList } from "../db/schema";
import { notFound, Refusal } from "../http/fault";
import { findCaller, route } from "../http/route";
import { peoplePrivately } from "../membership/knownPeople";
import { loadList } from "../membership/loadList";
import { listsOf } from "../membership/scope";
import { whoBelongs } from "../membership/whoBelongs";
import { composeMail } from "../posting/composeMail";
import { acceptPost, recordRefused, storeMessage } from "../posting/acceptPost";
import { decideHeld } from "../posting/decideHeld";
import { judge } from "../posting/judge";
import { tellHeld } from "../posting/tellHeld";
import { attachmentOf, showMessage } from "../posting/showMessage";

export function postRoutes(app: Hono, context: Context): void {
  const { db, settings } = context;

  route(app, context, getPosts, async ({ query, caller }) => {
    if (query.list !== undefined) await loadList(db, query.list, caller);
    const conditions: SQL[] = [visiblePosts(caller)];
    if (query.list !== undefined) conditions.push(sql`exists (select 1 from ${postList} where ${postList.postId} = ${post.id} and ${postList.listId} = ${query.list})`);
    if (query.before !== undefined) conditions.push(lt(post.at, new Date(query.before)));
    const rows = await db.select(postColumns).from(post).where(and(...conditions)).orderBy(desc(post.at)).limit(50);
    return withLists(db, rows);
  });

  route(app, context, getPost, async ({ params, caller }) => {
    const [found] = await db.select({ ...postColumns, messageRow: post.messageId, reasons: post.reasons, accountId: post.accountId, decidedBy: post.decidedBy, decidedAt: post.decidedAt }).from(post).where(and(eq(post.id, params.id), visiblePosts(caller)));
    if (found === undefined) throw notFound("post");
    const [line] = await withLists(db, [found]);
    const [raw] = await db.select({ raw: message.raw }).from(message).where(eq(message.id, found.messageRow));
    const kept = await isKept(db, found);
    const shown = raw === undefined || !kept ? { text: "", html: "", attachments: [] } : await showMessage(raw.raw);
    const rows = await db.select({ address: delivery.address, listId: delivery.listId, state: delivery.state, attempts: delivery.attempts, reply: delivery.reply, sentAt: delivery.sentAt, nextAt: delivery.nextAt }).from(delivery).where(and(eq(delivery.postId, found.id), found.accountId === caller.id ? undefined : isNotNull(delivery.listId))).orderBy(delivery.address);
    const names = await namesByAddress(db, caller, [...new Set(rows.flatMap(({ listId }) => (listId === null ? [] : [listId])))]);
    if (line === undefined) throw notFound("post");
    return {
      ...line, fromAddress: found.fromAddress, reasons: found.reasons, ...shown, kept, decided: found.decidedAt === null ? null : { by: found.decidedBy, at: found.decidedAt.toISOString() }, mayDecide: found.outcome === "held" && (await decidableHeld(db, caller, [found.id])).has(found.id),
      recipients: rows.map(({ address, state, attempts, reply, sentAt, nextAt }) => ({ address, people: names.get(address) ?? "", state, attempts, reply, at: sentAt?.toISOString() ?? null, nextAt: state === "deferred" ? nextAt.toISOString() : null })),
    };
  });

  app.get("/api/posts/:id/attachments/:index", async (http) => {
    const caller = await findCaller(http, context);
    if (caller === undefined) throw new Refusal(401, "signed-out", "You are not signed in, or your session has ended. Sign in again.");
    const [id, index] = [http.req.param("id"), Number(http.req.param("index"))];
    const [found] = !may(caller.role, "see posts") || !/^[0-9a-f-]{36}$/i.test(id) ? [] : await db.select({ raw: message.raw, id: post.id, outcome: post.outcome, reaches: post.reaches }).from(post).innerJoin(message, eq(message.id, post.messageId)).where(and(eq(post.id, id), visiblePosts(caller)));
    const attachment = found === undefined || !(await isKept(db, found)) ? undefined : await attachmentOf(found.raw, index);
    if (attachment === undefined) throw notFound("attachment");
    // Whatever it says it is, it is saved and never shown as a page of ours.
    return http.body(new Uint8Array(attachment.content), 200, { "Content-Type": "application/octet-stream", "Content-Disposition": `attachment; filename*=UTF-8''${encodeURIComponent(attachment.name)}`, "Content-Security-Policy": "default-src 'none'; sandbox", "Cache-Control": "no-store" });
  });

  route(app, context, getHeld, async ({ caller }) => {
    const rows = await db.select({ ...postColumns, messageRow: post.messageId, reasons: post.reasons }).from(post).where(and(eq(post.outcome, "held"), visiblePosts(caller))).orderBy(post.at).limit(HELD_SHOWN);
    const lines = new Map((await withLists(db, rows)).map((line) => [line.id, line]));
    const raws = new Map((rows.length === 0 ? [] : await db.select({ id: message.id, raw: message.raw }).from(message).where(inArray(message.id, rows.map(({ messageRow }) => messageRow)))).map(({ id, raw }) => [id, raw]));
    const mine = await decidableHeld(db, caller, rows.map(({ id }) => id));
    return Promise.all(rows.map(async ({ id, subject, fromName, fromAddress, at, messageRow, reasons }) => {
      const raw = raws.get(messageRow);
      const shown = raw === undefined ? undefined : await showMessage(raw);
      return { id, subject, from: fromName || fromAddress, fromAddress, lists: lines.get(id)?.lists ?? [], at: at.toISOString(), text: (shown?.text ?? "").slice(0, BEGINNING), reasons, attachments: shown?.attachments.length ?? 0, mayDecide: mine.has(id) };
    }));
  });

  route(app, context, postHeld, async ({ params, body, caller }) => {
    const [found] = await db.select({ id: post.id, outcome: post.outcome, by: post.decidedBy }).from(post).where(and(eq(post.id, params.id), visiblePosts(caller)));
    if (found === undefined) throw notFound("post");
    if (found.outcome !== "held") throw new Refusal(409, "held/decided", `${found.by === "" ? "Somebody" : found.by} has decided on this mail already.`);
    if (!(await decidableHeld(db, caller, [found.id])).has(found.id)) throw new Refusal(403, "held/lead", "Leads and helpers of the list decide on held mail.");
    return decideHeld(db, found.id, { id: caller.id, name: caller.name }, body.decision, body.word);
  });

  route(app, context, postReckon, async ({ body, caller }) => {
    const addresses = new Map<string, number>();
    const families = new Set<string>();
    const unreachable = new Set<string>();
    const refused: string[] = [];
    const notes: string[] = [];
    for (const id of new Set(body.lists)) {
      const found = await loadList(db, id, caller, "found");
      const { verdict } = await judge(db, found, caller.email, "signed-in");
      if (verdict.outcome === "held") { notes.push(`${found.title}: it is held until a lead or helper lets it out.`); continue; }
      if (verdict.outcome === "goes out" && verdict.reaches === "leads") { notes.push(`${found.title}: what you write reaches the leads alone.`); continue; }
      if (verdict.outcome !== "goes out") { refused.push(`${found.title}: ${verdict.reasons.map(({ sentence }) => sentence).join(" ")}`); continue; }
      const rows = await db.select({ address: membership.address }).from(membership).where(and(eq(membership.listId, id), isNull(membership.validUntil)));
      for (const { address } of rows) addresses.set(address, (addresses.get(address) ?? 0) + 1);
      for (const own of await whoBelongs(db, found)) (own.addresses.some((address) => addresses.has(address)) ? families : unreachable).add(own.family);
    }
    for (const { family, addresses: own } of await peoplePrivately(db, body.privately, caller)) {
      for (const address of own) addresses.set(address, (addresses.get(address) ?? 0) + 1);
      (own.length > 0 ? families : unreachable).add(family);
    }
    return { addresses: addresses.size, families: families.size, unreachable: [...unreachable].filter((family) => !families.has(family)).length, twice: [...addresses.values()].filter((count) => count > 1).length, refused, notes };
  });

  route(app, context, postPost, async ({ body, caller }) => {
    const lists = await Promise.all([...new Set(body.lists)].map((id) => loadList(db, id, caller, "found")));
    if (lists.length + body.privately.length === 0) throw new Refusal(400, "bad-request", "Choose a list to write to.", "lists");
    const privately = [...new Set((await peoplePrivately(db, body.privately, caller)).flatMap(({ addresses }) => addresses))];
    if (lists.length === 0 && privately.length === 0) throw new Refusal(422, "post/nobody", "Nobody on that private list can be reached by mail.", "lists");
    const judged = await Promise.all(lists.map(async (own) => ({ own, verdict: (await judge(db, own, caller.email, "signed-in", { ...PLAIN_MESSAGE, size: Buffer.byteLength(body.text) })).verdict })));
    const reasons = judged.flatMap(({ verdict }) => verdict.reasons.map(({ sentence }) => sentence));
    for (const { own, verdict } of judged) {
      if (verdict.outcome !== "goes out" && verdict.outcome !== "held") throw new Refusal(403, "post/refused", `${own.title}: ${verdict.reasons.map(({ sentence }) => sentence).join(" ")}`, "lists");
      if (lists.length + privately.length > 1 && (verdict.outcome === "held" || verdict.reaches === "leads")) throw new Refusal(422, "post/alone", `${own.title} takes your mail otherwise than the rest: ${verdict.outcome === "held" ? "it is held there for a lead" : "it reaches the leads alone"}. Write to it by itself.`, "lists");
    }
    const [first] = judged;
    const reaches = first?.verdict.reaches ?? "members";
    const [own] = await db.select().from(house);
    const domain = own?.listDomain ?? "localhost";
    const { raw, messageId } = await composeMail({ from: { name: caller.name, address: caller.email }, to: lists.length === 0 ? [{ name: caller.name, address: caller.email }] : lists.map(({ title, name }) => ({ name: title, address: `${name}@${domain}` })), subject: body.subject, text: body.text, domain });
    return db.transaction(async (tx) => {
      await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${body.key}, 0))`);
      const [before] = await tx.select({ id: post.id, outcome: post.outcome, addresses: count(delivery.id) }).from(post).leftJoin(delivery, eq(delivery.postId, post.id)).where(and(eq(post.id, body.key), eq(post.accountId, caller.id))).groupBy(post.id);
      if (before !== undefined) return { ...before, outcome: before.outcome === "held" ? "held" as const : "goes out" as const };
      const messageRow = await storeMessage(tx, raw, messageId);
      const wanted = { id: body.key, messageRow, messageId, subject: body.subject, from: { name: caller.name, address: caller.email }, accountId: caller.id, lists: lists.map(({ id }) => id), reasons, reaches, returnPath: caller.email };
      if (first?.verdict.outcome !== "held" || own === undefined) return { ...(await acceptPost(tx, { ...wanted, privately })), outcome: "goes out" as const };
      const id = await recordRefused(tx, { ...wanted, outcome: "held" });
      await tellHeld(tx, { postId: id, list: first.own, house: own, from: { name: caller.name, address: caller.email }, subject: body.subject, askSender: false, url: settings.url });
      return { id, addresses: 0, outcome: "held" as const };
    });
  });
}

/** Whether the text of a post is kept to be read: where no list of it keeps an archive, it is not, once it has gone out to the members. */
async function isKept(db: Queries, { id, outcome, reaches }: { id: string; outcome: string; reaches: string }): Promise<boolean> {
  if (outcome !== "goes out" || reaches === "leads") return true;
  const rows = await db.select({ rules: list.rules }).from(postList).innerJoin(list, eq(list.id, postList.listId)).where(eq(postList.postId, id));
  return rows.length === 0 || rows.some(({ rules }) => rules.archive !== "none");
}

const HELD_SHOWN = 100;
/** How many signs of a held mail's text are shown in the list of them. */
const BEGINNING = 600;

/** Which of some posts somebody may decide on: those of lists that they see, which are the ones that they lead, help with or coordinate. */
async function decidableHeld(db: Queries, caller: Caller, ids: readonly string[]): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await db.select({ id: postList.postId }).from(postList).innerJoin(list, eq(list.id, postList.listId)).where(and(inArray(postList.postId, [...ids]), listsOf(caller)));
  return new Set(rows.map(({ id }) => id));
}

const postColumns = { id: post.id, subject: post.subject, fromName: post.fromName, fromAddress: post.fromAddress, at: post.at, outcome: post.outcome, reaches: post.reaches };

/** The posts that somebody may see: their own, and those of lists that they may see. */
function visiblePosts(caller: Caller): SQL {
  return sql`(${post.accountId} = ${caller.id} or exists (select 1 from ${postList} join ${list} on ${list.id} = ${postList.listId} left join ${cohort} on ${cohort.id} = ${list.cohortId} where ${postList.postId} = ${post.id} and ${listsOf(caller)}))`;
}

async function withLists(db: Queries, rows: readonly { id: string; subject: string; fromName: string; fromAddress: string; at: Date; outcome: PostLine["outcome"]; reaches: PostLine["reaches"] }[]): Promise<PostLine[]> {
  if (rows.length === 0) return [];
  const ids = rows.map(({ id }) => id);
  const lists = await db.select({ postId: postList.postId, id: list.id, title: list.title }).from(postList).innerJoin(list, eq(list.id, postList.listId)).where(inArray(postList.postId, ids)).orderBy(list.title);
  const counts = await db.select({ postId: delivery.postId, state: delivery.state, count: sql<number>`count(*)`.mapWith(Number) }).from(delivery).where(inArray(delivery.postId, ids)).groupBy(delivery.postId, delivery.state);
  return rows.map((row) => {
    const of = (...states: string[]): number => counts.filter(({ postId, state }) => postId === row.id && states.includes(state)).reduce((sum, { count }) => sum + count, 0);
    return {
      id: row.id, subject: row.subject, from: row.fromName || row.fromAddress, at: row.at.toISOString(), outcome: row.outcome, reaches: row.reaches,
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

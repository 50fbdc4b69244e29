import type { JournalAction } from "@amigo/core/journal/journalAction";
import { and, count, desc, eq, inArray, isNotNull, isNull, lt, sql, type SQL } from "drizzle-orm";
import type { Hono } from "hono";
import { stream } from "hono/streaming";
import type { BounceSort } from "@amigo/core/mail/bounces/form";
import { isForGood } from "@amigo/core/mail/bounces/sortOf";
import { mboxEntry } from "@amigo/core/mail/mbox";
import type { DraftContent } from "@amigo/contract/drafts";
import {
  getHeld,
  getPost,
  getPosts,
  postCancel,
  postHeld,
  postPause,
  postPost,
  postReckon,
  postRetry,
  postTakeBack,
  postTakeOut,
  type PostLine,
} from "@amigo/contract/posts";
import { type Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { reckonDraft } from "../drafts/reckonDraft";
import { sendDraft } from "../drafts/sendDraft";
import { notify } from "../events/events";
import { notFound, Refusal } from "../http/fault";
import { needCaller, route } from "../http/route";
import { record } from "../journal/record";
import { loadList } from "../membership/loadList";
import { whoBelongs } from "../membership/whoBelongs";
import {
  changeableBy,
  copiesOf,
  digestsOf,
  listsOf,
  seesMembers,
  visiblePosts,
} from "../membership/scope";
import { BEGINNING } from "../posting/acceptPost";
import { decideHeld } from "../posting/decideHeld";
import { attachmentOf, showMessage } from "../posting/showMessage";
import { searchOf } from "../posting/searchOf";
import { cancelCopies, takeBackPost, type ManagedPost } from "./takeBackPost";
import { t } from "../texts/t";
import { list } from "../db/schema/lists";
import { message, post, postList, digestItem } from "../db/schema/posts";
import { delivery } from "../db/schema/deliveries";
import { draft } from "../db/schema/drafts";

export function postRoutes(app: Hono, context: Context): void {
  const { db } = context;

  route(app, context, getPosts, async ({ query, caller }) => {
    if (query.list !== undefined) await loadList(db, query.list, caller);
    const conditions: SQL[] = [visiblePosts(caller)];
    if (query.list !== undefined)
      conditions.push(
        sql`exists (select 1 from ${postList} where ${postList.postId} = ${post.id} and ${postList.listId} = ${query.list})`,
      );
    if (query.by === "me") conditions.push(eq(post.accountId, caller.id));
    if (query.q !== "")
      conditions.push(sql`${post.words} @@ ${searchOf(query.q)}`, isNull(post.takenOutAt));
    if (query.before !== undefined) conditions.push(lt(post.at, new Date(query.before)));
    const rows = await db
      .select(postColumns)
      .from(post)
      .where(and(...conditions))
      .orderBy(desc(post.at))
      .limit(50);
    return withLists(db, caller, rows);
  });

  route(app, context, getPost, async ({ params, caller }) => {
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
        found.decidedAt === null
          ? null
          : { by: found.decidedBy, at: found.decidedAt.toISOString() },
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
  });

  app.get("/api/posts/:id/attachments/:index", async (http) => {
    const caller = await needCaller(http, context, "see posts");
    const [id, index] = [http.req.param("id"), Number(http.req.param("index"))];
    const [found] = !/^[0-9a-f-]{36}$/i.test(id)
      ? []
      : await db
          .select({ raw: message.raw, id: post.id, outcome: post.outcome, reaches: post.reaches })
          .from(post)
          .innerJoin(message, eq(message.id, post.messageId))
          .where(and(eq(post.id, id), visiblePosts(caller)));
    const attachment =
      found === undefined || !(await isKept(db, found))
        ? undefined
        : await attachmentOf(found.raw, index);
    if (attachment === undefined) throw notFound("attachment");
    // Whatever it says it is, it is saved and never shown as a page of ours.
    return http.body(new Uint8Array(attachment.content), 200, {
      "Content-Type": "application/octet-stream",
      "Content-Disposition": `attachment; filename*=UTF-8''${encodeURIComponent(attachment.name)}`,
      "Cache-Control": "no-store",
    });
  });

  route(app, context, getHeld, async ({ caller }) => {
    const rows = await db
      .select({
        ...postColumns,
        beginning: post.beginning,
        attachments: post.attachments,
        reasons: post.reasons,
      })
      .from(post)
      .where(and(eq(post.outcome, "held"), visiblePosts(caller)))
      .orderBy(post.at)
      .limit(HELD_SHOWN);
    const lines = new Map((await withLists(db, caller, rows)).map((line) => [line.id, line]));
    const older = await beginningsOf(
      db,
      rows.flatMap(({ id, beginning }) => (beginning === null ? [id] : [])),
    );
    const mine = await decidableHeld(
      db,
      caller,
      rows.map(({ id }) => id),
    );
    return rows.map(
      ({ id, subject, fromName, fromAddress, at, beginning, attachments, reasons }) => ({
        id,
        subject,
        from: fromName || fromAddress,
        fromAddress,
        lists: lines.get(id)?.lists ?? [],
        at: at.toISOString(),
        text: beginning ?? older.get(id) ?? "",
        reasons,
        attachments: attachments ?? 0,
        mayDecide: mine.has(id),
      }),
    );
  });

  route(app, context, postHeld, async ({ params, body, caller }) => {
    const [found] = await db
      .select({ id: post.id, outcome: post.outcome, by: post.decidedBy })
      .from(post)
      .where(and(eq(post.id, params.id), visiblePosts(caller)));
    if (found === undefined) throw notFound("post");
    if (found.outcome !== "held")
      throw new Refusal(409, "held/decided", t("posts.hasDecidedOnThisMail", { by: found.by }));
    if (!(await decidableHeld(db, caller, [found.id])).has(found.id))
      throw new Refusal(403, "held/lead", t("posts.leadsAndHelpersOfThe"));
    return decideHeld(db, found.id, { id: caller.id, name: caller.name }, body.decision, body.word);
  });

  route(app, context, postReckon, async ({ body, caller }) =>
    reckonDraft(db, caller, contentOf(body), 0),
  );

  route(app, context, postPost, async ({ body, caller }) => {
    if (body.lists.length + body.privately.length === 0)
      throw new Refusal(400, "bad-request", t("posts.chooseAListToWrite"), "lists");
    const [before] = await db
      .select({ id: post.id, outcome: post.outcome, addresses: count(delivery.id) })
      .from(post)
      .leftJoin(delivery, eq(delivery.postId, post.id))
      .where(and(eq(post.id, body.key), eq(post.accountId, caller.id)))
      .groupBy(post.id);
    if (before !== undefined)
      return {
        ...before,
        outcome: before.outcome === "held" ? ("held" as const) : ("goes out" as const),
      };
    await db
      .insert(draft)
      .values({
        id: body.key,
        accountId: caller.id,
        content: { ...contentOf(body), subject: body.subject },
      })
      .onConflictDoNothing();
    const [row] = await db
      .select()
      .from(draft)
      .where(and(eq(draft.id, body.key), eq(draft.accountId, caller.id)));
    if (row === undefined) throw new Refusal(409, "post/key", t("posts.thisKeyWasUsedBy"), "key");
    try {
      const { post: id, ...sent } = await sendDraft(context, caller, row, undefined, {
        text: body.text,
      });
      return { id: id ?? row.id, addresses: sent.addresses, outcome: sent.outcome };
    } catch (failure) {
      await db.delete(draft).where(and(eq(draft.id, body.key), isNull(draft.postId)));
      throw failure;
    }
  });

  route(app, context, postTakeBack, async ({ params, caller }) =>
    takeBackPost(db, await manageable(params.id, caller, "all"), caller),
  );

  route(app, context, postPause, async ({ params, body, caller }) => {
    const own = await manageable(params.id, caller, "all");
    await db
      .update(post)
      .set({ pausedBy: body.paused ? caller.name : "" })
      .where(eq(post.id, own.id));
    await told(
      own,
      caller,
      body.paused ? "pause post" : "resume post",
      body.paused ? t("posts.letWhatHadNotLeft") : t("posts.letItGoOn"),
    );
    return { done: true as const };
  });

  route(app, context, postCancel, async ({ params, caller }) => {
    const own = await manageable(params.id, caller);
    const cancelled = await cancelCopies(db, own.id, caller);
    await told(own, caller, "cancel post", t("posts.cancelledThatHadNotLeft", { cancelled }));
    return { cancelled };
  });

  route(app, context, postRetry, async ({ params, body, caller }) => {
    const own = await manageable(params.id, caller);
    const [copy] = await db
      .update(delivery)
      .set({ state: "queued", nextAt: sql`now()`, createdAt: sql`now()`, reply: "" })
      .where(
        and(
          eq(delivery.postId, own.id),
          sql`exists (select 1 from ${post} where ${post.id} = ${own.id} and ${copiesOf(caller)})`,
          eq(delivery.address, body.address.toLowerCase()),
          inArray(delivery.state, ["bounced", "deferred", "cancelled"]),
        ),
      )
      .returning({ id: delivery.id });
    if (copy === undefined) throw new Refusal(409, "post/retry", t("posts.thisCopyWasDeliveredOr"));
    await told(own, caller, "retry", t("posts.hadTheCopyToTried", { address: body.address }));
    return { done: true as const };
  });

  route(app, context, postTakeOut, async ({ params, body, caller }) => {
    const own = await manageable(params.id, caller, "all");
    await db
      .update(post)
      .set(
        body.out
          ? { takenOutBy: caller.name, takenOutAt: sql`now()` }
          : { takenOutBy: "", takenOutAt: null },
      )
      .where(eq(post.id, own.id));
    await told(
      own,
      caller,
      body.out ? "take out of archive" : "put back into archive",
      body.out ? t("posts.tookItOutOfThe") : t("posts.putItBackIntoThe"),
    );
    return { done: true as const };
  });

  /** The archive of a list as one mailbox file (RFC 4155), as it may be read by who asks. */
  app.get("/api/lists/:id/archive.mbox", async (http) => {
    const caller = await needCaller(http, context, "see posts");
    const id = http.req.param("id");
    if (!/^[0-9a-f-]{36}$/i.test(id)) throw notFound("list");
    const found = await loadList(db, id, caller);
    const rows =
      found.rules.archive === "none"
        ? []
        : await db
            .select({ id: post.id })
            .from(post)
            .innerJoin(postList, eq(postList.postId, post.id))
            .where(
              and(
                eq(postList.listId, id),
                eq(post.outcome, "goes out"),
                eq(post.reaches, "members"),
                isNull(post.takenOutAt),
              ),
            )
            .orderBy(post.at)
            .limit(MOST_EXPORTED);
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "export archive",
      listId: id,
      sentence: t("posts.exportedTheArchiveOf", { name: caller.name, title: found.title }),
    });
    http.header("Content-Type", "application/mbox");
    http.header("Content-Disposition", `attachment; filename="${found.name}.mbox"`);
    http.header("Cache-Control", "no-store");
    // One message at a time is in memory.
    return stream(http, async (out) => {
      for (const row of rows) {
        const [one] = await db
          .select({ raw: message.raw, from: post.fromAddress, at: post.at })
          .from(post)
          .innerJoin(message, eq(message.id, post.messageId))
          .where(eq(post.id, row.id));
        if (one !== undefined && one.raw.length > 0)
          await out.write(mboxEntry(one.raw, one.from, one.at));
      }
    });
  });

  /** A post that somebody may pause, cancel and the like: their own, or of a list that they lead or coordinate. */
  async function manageable(
    id: string,
    caller: Caller,
    of: "all" | "a list" = "a list",
  ): Promise<ManagedPost> {
    const [found] = await db
      .select({
        id: post.id,
        subject: post.subject,
        leavesAt: post.leavesAt,
        accountId: post.accountId,
      })
      .from(post)
      .where(and(eq(post.id, id), visiblePosts(caller)));
    if (found === undefined) throw notFound("post");
    if (!(await mayManage(db, caller, found, of)))
      throw new Refusal(
        403,
        "post/lead",
        of === "all" ? t("posts.whoeverWroteItCanDo2") : t("posts.whoeverWroteItCanDo"),
      );
    return found;
  }

  async function told(
    own: ManagedPost,
    caller: Caller,
    action: JournalAction,
    did: string,
  ): Promise<void> {
    const lists = await db
      .select({ id: postList.listId })
      .from(postList)
      .where(eq(postList.postId, own.id));
    await record(
      db,
      ...(lists.length === 0 ? [{ id: null }] : lists).map(({ id: listId }) => ({
        actorId: caller.id,
        actor: caller.name,
        action,
        listId,
        sentence: `${caller.name} ${did}: "${own.subject}"`,
      })),
    );
    await notify(db, "posts", "queue");
  }
}

const MOST_EXPORTED = 100_000;

/**
 * Whether somebody may do more with a post than see it: of it as a whole, as its writer or where they lead all of its lists;
 * of their own list's copies, where they lead one.
 */
async function mayManage(
  db: Queries,
  caller: Caller,
  { id, accountId }: { id: string; accountId: string | null },
  of: "all" | "a list",
): Promise<boolean> {
  if (accountId === caller.id || caller.role === "coordinator") return true;
  const [led] = await db
    .select({
      lists: count(),
      own: sql<number>`count(*) filter (where ${changeableBy(caller)})`.mapWith(Number),
    })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(eq(postList.postId, id));
  return led !== undefined && led.own > 0 && (of === "a list" || led.own === led.lists);
}

/** A script's post as the composer would have put it together. */
function contentOf({
  lists,
  privately,
}: {
  lists: readonly string[];
  privately: readonly string[];
}): DraftContent {
  return {
    to: [
      ...lists.map((id) => ({ kind: "list" as const, id, name: "" })),
      ...privately.map((id) => ({ kind: "private" as const, id, name: "" })),
    ],
    cc: [],
    bcc: [],
    leftOut: [],
    answers: null,
    subject: "",
    html: "",
    as: "oneself",
    copyToMe: false,
    shown: false,
  };
}

/** Whether the text of a post is kept to be read: where no list of it keeps an archive, it is not, once it has gone out to the members. */
async function isKept(
  db: Queries,
  { id, outcome, reaches }: { id: string; outcome: string; reaches: string },
): Promise<boolean> {
  if (outcome !== "goes out" || reaches === "leads") return true;
  const rows = await db
    .select({ rules: list.rules })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(eq(postList.postId, id));
  return rows.length === 0 || rows.some(({ rules }) => rules.archive !== "none");
}

/** The beginnings of held mails that were stored before beginnings were kept; read once, and kept from then on. */
async function beginningsOf(db: Queries, ids: readonly string[]): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  for (const id of ids) {
    const [one] = await db
      .select({ raw: message.raw })
      .from(post)
      .innerJoin(message, eq(message.id, post.messageId))
      .where(eq(post.id, id));
    if (one === undefined) continue;
    const { text, attachments } = await showMessage(one.raw);
    const beginning = text.slice(0, BEGINNING).replace(/\u0000/g, " ");
    await db
      .update(post)
      .set({ beginning, attachments: attachments.length })
      .where(eq(post.id, id));
    found.set(id, beginning);
  }
  return found;
}

const HELD_SHOWN = 100;

/** Which of some posts somebody may decide on: those of lists that they see, which are the ones that they lead, help with or coordinate. */
async function decidableHeld(
  db: Queries,
  caller: Caller,
  ids: readonly string[],
): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await db
    .select({ id: postList.postId })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(and(inArray(postList.postId, [...ids]), listsOf(caller)));
  return new Set(rows.map(({ id }) => id));
}

const postColumns = {
  id: post.id,
  subject: post.subject,
  fromName: post.fromName,
  fromAddress: post.fromAddress,
  at: post.at,
  outcome: post.outcome,
  reaches: post.reaches,
  leavesAt: post.leavesAt,
  pausedBy: post.pausedBy,
  takenOutBy: post.takenOutBy,
};

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

async function withLists(
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
  const lists = await db
    .select({ postId: postList.postId, id: list.id, title: list.title })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(inArray(postList.postId, ids))
    .orderBy(list.title);
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

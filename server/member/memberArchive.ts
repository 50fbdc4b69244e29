import { and, eq, isNull, sql, lt, desc } from "drizzle-orm";
import { type getMemberArchive, type getMemberPost } from "@amigo/contract/member";
import { isInside } from "@amigo/core/address/isInside";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { season, house } from "../db/schema/house";
import { list, membership } from "../db/schema/lists";
import { post, message, postList } from "../db/schema/posts";
import { notFound, Refusal } from "../http/fault";
import type { Request, Answer, FileRequest } from "../http/handler";
import { findMember } from "../http/route";
import { searchOf } from "../posting/searchOf";
import { showMessage, attachmentOf } from "../posting/showMessage";
import { t } from "../texts/t";

const POSTS = 20;

/** What the archive shows of a post, and which posts stand in it. */
const archived = {
  id: post.id,
  subject: post.subject,
  from: post.fromName,
  fromAddress: post.fromAddress,
  at: post.at,
  thread: post.thread,
  raw: message.raw,
};

const inArchive = and(
  eq(post.outcome, "goes out"),
  eq(post.reaches, "members"),
  isNull(post.takenOutAt),
  isNull(message.erasedAt),
  sql`(${post.leavesAt} is null or ${post.leavesAt} <= now())`,
);

async function showArchived({
  id,
  subject,
  from,
  fromAddress,
  at,
  thread,
  raw,
}: {
  id: string;
  subject: string;
  from: string;
  fromAddress: string;
  at: Date;
  thread: string | null;
  raw: Buffer;
}) {
  const { text, attachments } = await showMessage(raw);
  return {
    id,
    subject,
    from: from || fromAddress,
    at: at.toISOString(),
    text,
    thread: thread ?? id,
    attachments: attachments.map(({ index, name, size }) => ({ index, name, size })),
  };
}

/** The list, where a member may read its archive: because they are on it, or as anybody inside who finds it. */
async function readable(db: Database, id: string, address: string): Promise<string> {
  const [found] = await db
    .select({ rules: list.rules, on: membership.id })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .leftJoin(
      membership,
      and(
        eq(membership.listId, list.id),
        eq(membership.address, address),
        isNull(membership.validUntil),
      ),
    )
    .where(and(eq(list.id, id), isNull(list.closedAt), eq(season.current, true)));
  const [own] = await db.select({ domain: house.insideDomain }).from(house);
  const asMember =
    found?.on != null && (found.rules.archive === "members" || found.rules.archive === "inside");
  const asInside =
    found !== undefined &&
    isInside(address, own?.domain ?? "") &&
    found.rules.archive === "inside" &&
    found.rules.findable === "inside";
  if (!asMember && !asInside) throw notFound("list");
  return id;
}

export async function listMemberPosts(
  { db }: Context,
  { params, query, member }: Request<typeof getMemberArchive>,
): Promise<Answer<typeof getMemberArchive>> {
  const own = { id: await readable(db, params.id, member) };
  const rows = await db
    .select(archived)
    .from(post)
    .innerJoin(postList, eq(postList.postId, post.id))
    .innerJoin(message, eq(message.id, post.messageId))
    .where(
      and(
        eq(postList.listId, own.id),
        inArchive,
        query.q === "" ? undefined : sql`${post.words} @@ ${searchOf(query.q)}`,
        query.before === undefined ? undefined : lt(post.at, new Date(query.before)),
      ),
    )
    .orderBy(desc(post.at))
    .limit(POSTS);
  return Promise.all(rows.map(showArchived));
}

export async function showMemberPost(
  { db }: Context,
  { params, member }: Request<typeof getMemberPost>,
): Promise<Answer<typeof getMemberPost>> {
  const [row] = await db
    .select({ ...archived, listId: list.id, title: list.title })
    .from(post)
    .innerJoin(postList, eq(postList.postId, post.id))
    .innerJoin(list, eq(list.id, postList.listId))
    .innerJoin(message, eq(message.id, post.messageId))
    .where(and(eq(post.id, params.id), inArchive))
    .limit(1);
  if (row === undefined) throw notFound("post");
  await readable(db, row.listId, member);
  return { ...(await showArchived(row)), list: { id: row.listId, title: row.title } };
}

export async function sendMemberAttachment(
  context: Context,
  http: FileRequest<"/api/member/posts/:id/attachments/:index">,
): Promise<Response> {
  const { db } = context;
  const member = await findMember(http, context);
  if (member === undefined)
    throw new Refusal(401, "member/signed-out", t("shared.thisPageWasClosedOr"));
  const id = http.req.param("id");
  const [row] = !/^[0-9a-f-]{36}$/i.test(id)
    ? []
    : await db
        .select({ raw: message.raw, listId: postList.listId })
        .from(post)
        .innerJoin(postList, eq(postList.postId, post.id))
        .innerJoin(message, eq(message.id, post.messageId))
        .where(and(eq(post.id, id), inArchive))
        .limit(1);
  if (row === undefined) throw notFound("post");
  await readable(db, row.listId, member);
  const found = await attachmentOf(row.raw, Number(http.req.param("index")));
  if (found === undefined) throw notFound("attachment");
  return http.body(new Uint8Array(found.content), 200, {
    "Content-Type": "application/octet-stream",
    "Content-Disposition": `attachment; filename*=UTF-8''${encodeURIComponent(found.name)}`,
    "Cache-Control": "no-store",
  });
}

import { disposition } from "../http/disposition";
import { noSuch, type Refused } from "../refused";
import type { getMemberArchive, getMemberPost } from "@amigo/contract/member";
import { isInside } from "@amigo/core/address/isInside";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { orRefuse, refuse, notFound, Refusal } from "../http/fault";
import type { Request, Answer, FileRequest } from "../http/handler";
import { findMember } from "../http/route";
import { showMessage, attachmentOf } from "../posting/showMessage";
import { t } from "../texts/t";
import { findReadable, listArchived, findArchived, findArchivedRaw } from "./queries";
import { insideDomains } from "../db/insideDomains";

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
async function readable(db: Database, id: string, address: string): Promise<string | Refused> {
  const found = await findReadable(db, address, id);
  const asMember =
    found?.on != null && (found.rules.archive === "members" || found.rules.archive === "inside");
  const asInside =
    found !== undefined &&
    isInside(address, await insideDomains(db)) &&
    found.rules.archive === "inside" &&
    found.rules.findable === "inside";
  if (!asMember && !asInside) return noSuch("list");
  return id;
}

/** Returns what was written to a list, for members who may read it. */
export async function listMemberPosts(
  { db }: Context,
  { params, query, member }: Request<typeof getMemberArchive>,
): Promise<Answer<typeof getMemberArchive>> {
  const found = { id: orRefuse(await readable(db, params.id, member)) };
  const rows = await listArchived(db, found.id, query.q, query.before);
  return Promise.all(rows.map(showArchived));
}

/** Returns one post that a member may read, by its address in the mail. */
export async function showMemberPost(
  { db }: Context,
  { params, member }: Request<typeof getMemberPost>,
): Promise<Answer<typeof getMemberPost>> {
  const row = await findArchived(db, params.id);
  if (row === undefined) throw notFound("post");
  refuse(await readable(db, row.listId, member));
  return { ...(await showArchived(row)), list: { id: row.listId, title: row.title } };
}

/** Sends an attachment of a post that a member may read. */
export async function sendMemberAttachment(
  context: Context,
  http: FileRequest<"/api/member/posts/:id/attachments/:index">,
): Promise<Response> {
  const { db } = context;
  const member = await findMember(http, context);
  if (member === undefined)
    throw new Refusal(401, "member/signed-out", t("shared.thisPageWasClosedOr"));
  const id = http.req.param("id");
  const [row] = !/^[0-9a-f-]{36}$/i.test(id) ? [] : await findArchivedRaw(db, id);
  if (row === undefined) throw notFound("post");
  refuse(await readable(db, row.listId, member));
  const found = await attachmentOf(row.raw, Number(http.req.param("index")));
  if (found === undefined) throw notFound("attachment");
  return http.body(new Uint8Array(found.content), 200, {
    "Content-Type": "application/octet-stream",
    "Content-Disposition": disposition("attachment", found.name),
    "Cache-Control": "no-store",
  });
}

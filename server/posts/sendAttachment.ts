import type { FileRequest } from "../http/handler";
import { eq, and } from "drizzle-orm";
import type { Context } from "../context";
import { message, post } from "../db/schema/posts";
import { notFound } from "../http/fault";
import { needCaller } from "../http/route";
import { visiblePosts } from "../membership/scope";
import { attachmentOf } from "../posting/showMessage";
import { isKept } from "./isKept";

export async function sendAttachment(
  context: Context,
  http: FileRequest<"/api/posts/:id/attachments/:index">,
): Promise<Response> {
  const { db } = context;
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
}

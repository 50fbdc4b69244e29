import { disposition } from "../http/disposition";
import type { FileRequest } from "../http/handler";
import type { Context } from "../context";
import { notFound } from "../http/fault";
import { needCaller } from "../http/route";
import { attachmentOf } from "../posting/showMessage";
import { isKept } from "./isKept";
import { findAttachmentsOf } from "./queries";

/** Sends an attachment of a post. */
export async function sendAttachment(
  context: Context,
  http: FileRequest<"/api/posts/:id/attachments/:index">,
): Promise<Response> {
  const { db } = context;
  const caller = await needCaller(http, context, "see posts");
  const [id, index] = [http.req.param("id"), Number(http.req.param("index"))];
  const [found] = !/^[0-9a-f-]{36}$/i.test(id) ? [] : await findAttachmentsOf(db, id, caller);
  const attachment =
    found === undefined || !(await isKept(db, found))
      ? undefined
      : await attachmentOf(found.raw, index);
  if (attachment === undefined) throw notFound("attachment");
  // Whatever it says it is, it is saved and never shown as a page of ours.
  return http.body(new Uint8Array(attachment.content), 200, {
    "Content-Type": "application/octet-stream",
    "Content-Disposition": disposition("attachment", attachment.name),
    "Cache-Control": "no-store",
  });
}

import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { type postDraftFile, type deleteDraftFile } from "@amigo/contract/drafts";
import type { Context } from "../context";
import { draftFile, draft } from "../db/schema/drafts";
import { Refusal, notFound } from "../http/fault";
import type { Request, Answer, FileRequest } from "../http/handler";
import { needCaller } from "../http/route";
import { t } from "../texts/t";
import { filesOf } from "./filesOf";
import { ownDraft } from "./sendDraft";

const MOST_FILES = 20;

const LARGEST_FILE = 15 * 1024 * 1024;

const PICTURES = new Set(["image/png", "image/jpeg", "image/gif", "image/webp"]);

export async function attachFile(
  { db }: Context,
  { params, body, caller }: Request<typeof postDraftFile>,
): Promise<Answer<typeof postDraftFile>> {
  const own = await ownDraft(db, caller, params.id);
  const files = await filesOf(db, own.id);
  if (files.length >= MOST_FILES)
    throw new Refusal(
      422,
      "draft/files",
      t("drafts.aMailCarriesAtMost", { most: MOST_FILES }),
      "file",
    );
  if (body.file.size > LARGEST_FILE)
    throw new Refusal(
      422,
      "draft/file",
      t("drafts.hasMbAtMostMb", {
        file: body.file.name,
        size: Math.ceil(body.file.size / 1024 / 1024),
        most: LARGEST_FILE / 1024 / 1024,
      }),
      "file",
    );
  const inline = body.inline === "yes";
  if (inline && !PICTURES.has(body.file.type))
    throw new Refusal(
      422,
      "draft/picture",
      t("drafts.isNoPictureThatMail", { name: body.file.name }),
      "file",
    );
  const [made] = await db
    .insert(draftFile)
    .values({
      draftId: own.id,
      name: body.file.name.replace(/[\u0000-\u001f\u007f"\\/:*?<>|]/g, "_").slice(0, 120) || "file",
      type: /^[\w.+-]+\/[\w.+-]+$/.test(body.file.type)
        ? body.file.type
        : "application/octet-stream",
      size: body.file.size,
      content: Buffer.from(await body.file.arrayBuffer()),
      cid: inline ? `${randomUUID()}@amigo` : "",
    })
    .returning({
      id: draftFile.id,
      name: draftFile.name,
      type: draftFile.type,
      size: draftFile.size,
      cid: draftFile.cid,
    });
  if (made === undefined) throw notFound("draft");
  return made;
}

export async function removeFile(
  { db }: Context,
  { params, caller }: Request<typeof deleteDraftFile>,
): Promise<Answer<typeof deleteDraftFile>> {
  await ownDraft(db, caller, params.id);
  await db
    .delete(draftFile)
    .where(and(eq(draftFile.id, params.file), eq(draftFile.draftId, params.id)));
  return { done: true as const };
}

export async function sendDraftFile(
  context: Context,
  http: FileRequest<"/api/drafts/:id/files/:file">,
): Promise<Response> {
  const { db } = context;
  const caller = await needCaller(http, context, "write to lists");
  const [id, file] = [http.req.param("id"), http.req.param("file")];
  const [found] =
    !/^[0-9a-f-]{36}$/i.test(id) || !/^[0-9a-f-]{36}$/i.test(file)
      ? []
      : await db
          .select({ type: draftFile.type, content: draftFile.content, name: draftFile.name })
          .from(draftFile)
          .innerJoin(draft, eq(draft.id, draftFile.draftId))
          .where(and(eq(draftFile.id, file), eq(draft.id, id), eq(draft.accountId, caller.id)));
  if (found === undefined) throw notFound("file");
  const isPicture = PICTURES.has(found.type);
  return http.body(new Uint8Array(found.content), 200, {
    "Content-Type": isPicture ? found.type : "application/octet-stream",
    "Content-Disposition": `${isPicture ? "inline" : "attachment"}; filename*=UTF-8''${encodeURIComponent(found.name)}`,
    "Cache-Control": "no-store",
  });
}

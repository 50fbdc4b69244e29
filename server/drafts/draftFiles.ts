import { LARGEST_FILE, type postDraftFile, type deleteDraftFile } from "@amigo/contract/drafts";
import { disposition } from "../http/disposition";
import type { Context } from "../context";
import { orRefuse, refuse, Refusal, notFound } from "../http/fault";
import type { Request, Answer, FileRequest } from "../http/handler";
import { needCaller } from "../http/route";
import { t } from "../texts/t";
import { ownDraft } from "./sendDraft";
import { storeFile, removeFileOf, findFile, filesOf } from "./queries";

const MOST_FILES = 20;

const PICTURES = new Set(["image/png", "image/jpeg", "image/gif", "image/webp"]);

/** Adds a file or picture to a draft. */
export async function attachFile(
  { db }: Context,
  { params, body, caller }: Request<typeof postDraftFile>,
): Promise<Answer<typeof postDraftFile>> {
  const draft = orRefuse(await ownDraft(db, caller, params.id));
  const files = await filesOf(db, draft.id);
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
  const made = await storeFile(db, draft.id, body.file, inline);
  if (made === undefined) throw notFound("draft");
  return made;
}

/** Takes a file off a draft. */
export async function removeFile(
  { db }: Context,
  { params, caller }: Request<typeof deleteDraftFile>,
): Promise<Answer<typeof deleteDraftFile>> {
  refuse(await ownDraft(db, caller, params.id));
  await removeFileOf(db, params.file, params.id);
  return { done: true as const };
}

/** Sends a file of one's own draft. */
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
      : await findFile(db, file, id, caller.id);
  if (found === undefined) throw notFound("file");
  const isPicture = PICTURES.has(found.type);
  return http.body(new Uint8Array(found.content), 200, {
    "Content-Type": isPicture ? found.type : "application/octet-stream",
    "Content-Disposition": disposition(isPicture ? "inline" : "attachment", found.name),
    "Cache-Control": "no-store",
  });
}

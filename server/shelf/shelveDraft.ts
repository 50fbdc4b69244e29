import type { postDraftShelve } from "@amigo/contract/drafts";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { findFile, findOwnDraft, removeFileOf } from "../drafts/queries";
import { notFound, orRefuse, refuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { refused, Refused } from "../refused";
import { t } from "../texts/t";
import { admit } from "./admit";
import { asAuthor } from "./author";
import { storeBlob } from "./blobs";
import { storeFile } from "./putThings";
import { refusedKind } from "./refusedKind";
import { openShelf } from "./shelfOf";
import { roomFor } from "./roomFor";
import { finishUpload } from "./uploads";

/** Puts files on the shelves of the lists that a draft goes to, and takes them off the draft: a link to each goes into its text. */
export async function shelveDraft(
  context: Context,
  { params, body, caller }: Request<typeof postDraftShelve>,
): Promise<Answer<typeof postDraftShelve>> {
  const { db, settings } = context;
  const draft = await findOwnDraft(db, params.id, caller.id);
  if (draft === undefined) throw notFound("draft");
  const { to, cc, bcc } = draft.content;
  const targets = [...to, ...cc, ...bcc].flatMap(({ kind, id }) =>
    kind === "list" || kind === "private" ? [id] : [],
  );
  const lists = orRefuse(await theirLists(db, caller, [...new Set(targets)]));
  const author = asAuthor(caller);
  const things: { id: string; title: string; link: string }[] = [];
  const put = async (blobId: string, name: string): Promise<void> => {
    const { id, title } = await storeFile(db, author, lists, { blobId, name, folder: "" });
    things.push({ id, title, link: `${settings.url}/member/shelf/${id}` });
  };
  for (const { id, name } of body.uploads) {
    refuse(await refusedKind(db, lists, name));
    await put(orRefuse(await finishUpload(context, author, id)).id, name);
  }
  for (const id of body.files) {
    const [file] = await findFile(db, id, params.id, caller.id);
    if (file === undefined) throw notFound("file");
    refuse(await refusedKind(db, lists, file.name));
    refuse(await roomFor(context, file.content.length));
    const stored = await storeBlob(context, once(file.content));
    refuse(await admit(context, stored));
    await put(stored.id, file.name);
    await removeFileOf(db, id, params.id);
  }
  return { things };
}

/** The lists of a draft that somebody looks after: those on whose shelves they may put something. */
async function theirLists(
  db: Database,
  caller: Caller,
  targets: readonly string[],
): Promise<[string, ...string[]] | Refused> {
  const theirs: string[] = [];
  for (const id of targets) {
    const found = await openShelf(db, id, caller);
    if (!(found instanceof Refused)) theirs.push(found.id);
  }
  const [first, ...others] = theirs;
  return first === undefined
    ? refused(422, "draft/no-shelf", t("shelf.noListOfTheirs"), "to")
    : [first, ...others];
}

async function* once(content: Buffer): AsyncGenerator<Buffer> {
  yield content;
}

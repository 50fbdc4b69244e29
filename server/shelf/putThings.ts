import type { Context as HonoContext } from "hono";
import type { z } from "zod";
import type { postShelfFile, postShelfLink, ShelfLink } from "@amigo/contract/shelf";
import type { Context } from "../context";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { orRefuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { Refused } from "../refused";
import { safeName } from "../sandbox/safeName";
import { t } from "../texts/t";
import { admit } from "./admit";
import { asAuthor, type Author } from "./author";
import { bodyOf } from "./bodyOf";
import { storeBlob } from "./blobs";
import { roomForBody } from "./roomFor";
import { finishUpload } from "./uploads";
import { listPublic, storePlaces } from "./placeQueries";
import { storeThing, storeVersion } from "./queries";
import { refusedKind } from "./refusedKind";
import { openShelf } from "./shelfOf";

/** Puts a file on a list's shelf, once all of it has come. */
export async function putFile(
  context: Context,
  { params, query, caller, http }: Request<typeof postShelfFile>,
): Promise<Answer<typeof postShelfFile>> {
  const found = orRefuse(await openShelf(context.db, params.id, caller));
  const author = asAuthor(caller);
  const { upload, name } = query;
  const blobId = orRefuse(
    await receiveFile(context, author, { upload, name, lists: [found.id] }, http),
  );
  const file = { blobId, name: query.name, folder: query.folder };
  return { id: (await storeFile(context.db, author, [found.id], file)).id };
}

/**
 * Returns as what a file is kept that comes with a request, or has come piece by piece before. One that a list doesn't take is
 * refused before any of it is read.
 */
export async function receiveFile(
  context: Context,
  author: Author,
  { upload, name, lists }: { upload: string | undefined; name: string; lists: readonly string[] },
  http: HonoContext,
): Promise<string | Refused> {
  const { db } = context;
  const kind = await refusedKind(db, lists, name);
  if (kind !== undefined) return kind;
  if (upload !== undefined) {
    const stored = await finishUpload(context, author, upload);
    return stored instanceof Refused ? stored : stored.id;
  }
  const refusal = await roomForBody(context, http);
  if (refusal !== undefined) return refusal;
  const stored = await storeBlob(context, bodyOf(context, http));
  return (await admit(context, stored)) ?? stored.id;
}

/** Stores a file that has come as a thing on one or several lists' shelves. */
export async function storeFile(
  db: Database,
  author: Author,
  [list, ...others]: readonly [string, ...string[]],
  { blobId, name: sent, folder }: { blobId: string; name: string; folder: string },
): Promise<{ id: string; title: string }> {
  const name = safeName(sent, 0);
  const title = titleOf(name);
  return db.transaction(async (tx) => {
    const thing = { kind: "file" as const, title, folder, ...madeBy(author) };
    const id = await storeThing(tx, thing, list);
    await storePlaces(tx, id, others, []);
    await storeVersion(tx, { thingId: id, number: 1, blobId, name, ...versionBy(author) });
    const sentence = () => t("shelf.putThere", { name: author.name, title });
    await noteShelf(tx, author, [list, ...others], sentence);
    return { id, title };
  });
}

/** Puts a link on a list's shelf. */
export async function putLink(
  { db }: Context,
  { params, body, caller }: Request<typeof postShelfLink>,
): Promise<Answer<typeof postShelfLink>> {
  const found = orRefuse(await openShelf(db, params.id, caller));
  return { id: await storeLink(db, asAuthor(caller), found.id, body) };
}

/** Stores a link as a thing on a list's shelf. */
export async function storeLink(
  db: Database,
  author: Author,
  list: string,
  { title, link, folder }: z.output<typeof ShelfLink>,
): Promise<string> {
  return db.transaction(async (tx) => {
    const thing = { kind: "link" as const, title, link, folder, ...madeBy(author) };
    const id = await storeThing(tx, thing, list);
    await noteShelf(tx, author, [list], () => t("shelf.putThere", { name: author.name, title }));
    return id;
  });
}

function madeBy({ name, accountId, address }: Author) {
  return { madeBy: name, accountId, address };
}

/** Whose a version is. */
export function versionBy({ name, address }: Author): { by: string; address: string | null } {
  return { by: name, address };
}

/** Returns a file's name without its ending, as a person would call it. */
export function titleOf(name: string): string {
  const bare = name
    // A number at the end is part of the name, as in "Budget 2026.27".
    .replace(/\.(?=[A-Za-z0-9]*[A-Za-z])[A-Za-z0-9]{1,5}$/, "")
    .replace(/_+/g, " ")
    .trim();
  return bare === "" ? name : bare;
}

/** Writes into the journal what somebody did with a shelf, for each of its lists. What is private isn't written there. */
export async function noteShelf(
  tx: Queries,
  author: Author,
  lists: readonly string[],
  sentence: () => string,
): Promise<void> {
  const entry = {
    actorId: author.accountId,
    actor: author.name,
    action: "share on shelf" as const,
  };
  const noted = await listPublic(tx, lists);
  await record(tx, ...noted.map(({ id }) => ({ ...entry, listId: id, sentence })));
  await notify(tx, "shelf");
}

import type { Context as HonoContext } from "hono";
import type {
  deleteShelfThing,
  postShelfRestore,
  postShelfVersion,
  putShelfThing,
} from "@amigo/contract/shelf";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Database, Queries } from "../db/connect";
import { inTransaction } from "../db/inTransaction";
import { notFound, orRefuse, refuse, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { noSuch, type Refused } from "../refused";
import { safeName } from "../sandbox/safeName";
import { t } from "../texts/t";
import { asAuthor, type Author } from "./author";
import { listListsOfThings, listPlaces, storePlaces } from "./placeQueries";
import { refusedKind } from "./refusedKind";
import { noteShelf, receiveFile, titleOf, versionBy } from "./putThings";
import {
  findThing,
  listVersions,
  lockThing,
  storeChange,
  storeVersion,
  storeVersionName,
  type ThingRow,
} from "./queries";
import { findShelf, openShelf } from "./shelfOf";

/** Changes what a thing is called, until when it is open, and which lists share it. */
export async function changeThing(
  { db }: Context,
  { params, body, caller }: Request<typeof putShelfThing>,
): Promise<Answer<typeof putShelfThing>> {
  const row = await findThing(db, params.id, caller);
  if (row === undefined) throw notFound("thing");
  const places = await listPlaces(db, [params.id], caller);
  const before = new Set(places.map(({ id }) => id));
  const added = body.lists.filter((id) => !before.has(id));
  for (const id of added) orRefuse(await openShelf(db, id, caller));
  if (row.name !== null) refuse(await refusedKind(db, added, row.name));
  // On shelves that they don't look after, it stays.
  const off = places.filter(({ id, isTheirs }) => isTheirs && !body.lists.includes(id));
  const lists = [...new Set([...before, ...body.lists])];
  await db.transaction(async (tx) => {
    const thing = await lockThing(tx, params.id);
    if (thing === undefined || thing.changes !== body.changes)
      throw new Refusal(409, "shelf/changed", t("shelf.somebodyHasChangedIt"));
    const { title, folder, untilDay, membersMay } = body;
    await storePlaces(
      tx,
      params.id,
      body.lists,
      off.map(({ id }) => id),
    );
    await storeChange(tx, params.id, {
      title,
      folder,
      membersMay,
      untilDay: untilDay === "" ? null : untilDay,
      changes: thing.changes + 1,
    });
    await noteShelf(tx, asAuthor(caller), lists, () =>
      t("shelf.changed", { name: caller.name, title }),
    );
  });
  return { done: true as const };
}

/** Gives a file another name and place: in a folder, and from one list's shelf to another's where those differ. */
export function moveFile(
  db: Database,
  caller: Caller,
  { thing, name: before }: ThingRow,
  to: { name: string; folder: string; from: string; list: string },
): Promise<void> {
  return db.transaction(async (tx) => {
    const name = safeName(to.name, 0);
    // A title of its own stays; one that is the file's name goes with it.
    const title = thing.title === titleOf(before ?? "") ? titleOf(name) : thing.title;
    await lockThing(tx, thing.id);
    await storeChange(tx, thing.id, { title, folder: to.folder, changes: thing.changes + 1 });
    await storeVersionName(tx, thing.id, thing.version, name);
    if (to.from !== to.list) await storePlaces(tx, thing.id, [to.list], [to.from]);
    const lists = [...new Set([to.from, to.list])];
    const sentence = () => t("shelf.changed", { name: caller.name, title });
    await noteShelf(tx, asAuthor(caller), lists, sentence);
  });
}

/** Puts a new version of a file in place of the one before, which is kept. */
export async function putVersion(
  context: Context,
  { params, query, caller, http }: Request<typeof postShelfVersion>,
): Promise<Answer<typeof postShelfVersion>> {
  const row = await findThing(context.db, params.id, caller);
  if (row?.thing.kind !== "file") throw notFound("file");
  const author = asAuthor(caller);
  const blobId = orRefuse(await receiveVersion(context, author, params.id, query, http));
  return orRefuse(await addVersion(context.db, author, params.id, { ...query, blobId }));
}

/** Returns as what a new version of a file is kept that comes with a request, or has come piece by piece before. */
export async function receiveVersion(
  context: Context,
  author: Author,
  thing: string,
  { name, upload }: { name: string; upload?: string | undefined },
  http: HonoContext,
): Promise<string | Refused> {
  const lists = (await listListsOfThings(context.db, [thing])).map(({ id }) => id);
  return receiveFile(context, author, { upload, name, lists }, http);
}

/** Stores a file that has come as the version that holds from now on. */
export function addVersion(
  db: Database,
  author: Author,
  id: string,
  { blobId, name: sent, version: seen }: { blobId: string; name: string; version: number },
): Promise<{ version: number; besideAnother: boolean } | Refused> {
  return inTransaction(db, async (tx) => {
    const thing = await lockThing(tx, id);
    if (thing === undefined || thing.takenOffAt !== null) return noSuch("file");
    const [newest] = await listVersions(tx, id);
    const version = (newest?.number ?? 0) + 1;
    const name = safeName(sent, 0);
    await storeVersion(tx, { thingId: id, number: version, blobId, name, ...versionBy(author) });
    await storeChange(tx, id, { version });
    await noteAll(tx, author, id, { name: author.name, title: thing.title, version });
    return { version, besideAnother: thing.version !== seen };
  });
}

/** Lets an earlier version of a file hold again. All versions stay. */
export async function restoreVersion(
  { db }: Context,
  { params, body, caller }: Request<typeof postShelfRestore>,
): Promise<Answer<typeof postShelfRestore>> {
  const row = await findThing(db, params.id, caller);
  if (row === undefined) throw notFound("file");
  const { version } = body;
  const versions = await listVersions(db, params.id);
  if (!versions.some(({ number }) => number === version)) throw notFound("version");
  await db.transaction(async (tx) => {
    const thing = await lockThing(tx, params.id);
    if (thing === undefined) throw notFound("file");
    await storeChange(tx, params.id, { version });
    const said = { name: caller.name, title: thing.title, version };
    await noteAll(tx, asAuthor(caller), params.id, said);
  });
  return { done: true as const };
}

/** Takes a thing off a list's shelf. Off the last one, nobody may open it any more, and after a month it is removed. */
export async function takeOff(
  { db }: Context,
  { params, query, caller }: Request<typeof deleteShelfThing>,
): Promise<Answer<typeof deleteShelfThing>> {
  const row = await findThing(db, params.id, caller);
  if (row === undefined) throw notFound("thing");
  const found = orRefuse(await findShelf(db, query.list, caller));
  refuse(await takeOffList(db, caller, params.id, found.id));
  return { done: true as const };
}

/** Takes a thing off a list's shelf; the caller looks after both. */
export function takeOffList(
  db: Database,
  caller: Caller,
  id: string,
  list: string,
): Promise<Refused | undefined> {
  return inTransaction(db, async (tx) => {
    const thing = await lockThing(tx, id);
    const places = await listListsOfThings(tx, [id]);
    if (thing === undefined || !places.some((place) => place.id === list)) return noSuch("thing");
    // The last list stays with it, for whoever asks what was there.
    if (places.length === 1) await storeChange(tx, id, { takenOffAt: new Date() });
    else await storePlaces(tx, id, [], [list]);
    const sentence = () => t("shelf.takenOff", { name: caller.name, title: thing.title });
    await noteShelf(tx, asAuthor(caller), [list], sentence);
    return undefined;
  });
}

async function noteAll(
  tx: Queries,
  author: Author,
  thing: string,
  values: { name: string; title: string; version: number },
): Promise<void> {
  const lists = (await listListsOfThings(tx, [thing])).map(({ id }) => id);
  await noteShelf(tx, author, lists, () => t("shelf.newVersion", values));
}

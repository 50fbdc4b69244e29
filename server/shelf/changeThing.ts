import type {
  deleteShelfThing,
  postShelfRestore,
  postShelfVersion,
  putShelfThing,
} from "@amigo/contract/shelf";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notFound, orRefuse, refuse, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { loadList } from "../membership/loadList";
import { safeName } from "../sandbox/safeName";
import { t } from "../texts/t";
import { bodyOf } from "./bodyOf";
import { storeBlob } from "./blobs";
import { noteShelf, openList } from "./putThings";
import { roomFor } from "./roomFor";
import {
  findThing,
  listPlaces,
  listVersions,
  lockThing,
  storeChange,
  storePlaces,
  storeVersion,
} from "./queries";

/** Changes what a thing is called, until when it is open, and which lists share it. */
export async function changeThing(
  { db }: Context,
  { params, body, caller }: Request<typeof putShelfThing>,
): Promise<Answer<typeof putShelfThing>> {
  const row = await findThing(db, params.id, caller);
  if (row === undefined) throw notFound("thing");
  const places = await listPlaces(db, [params.id], caller);
  const before = new Set(places.map(({ id }) => id));
  for (const id of body.lists) if (!before.has(id)) orRefuse(await openList(db, id, caller));
  // On shelves that they don't look after, it stays.
  const off = places.filter(({ id, isTheirs }) => isTheirs && !body.lists.includes(id));
  const lists = [...new Set([...before, ...body.lists])];
  await db.transaction(async (tx) => {
    const thing = await lockThing(tx, params.id);
    if (thing === undefined || thing.changes !== body.changes)
      throw new Refusal(409, "shelf/changed", t("shelf.somebodyHasChangedIt"));
    const { title, folder, untilDay } = body;
    await storePlaces(
      tx,
      params.id,
      body.lists,
      off.map(({ id }) => id),
    );
    await storeChange(tx, params.id, {
      title,
      folder,
      untilDay: untilDay === "" ? null : untilDay,
      changes: thing.changes + 1,
    });
    await noteShelf(tx, caller, lists, t("shelf.changed", { name: caller.name, title }));
  });
  return { done: true as const };
}

/** Puts a new version of a file in place of the one before, which is kept. */
export async function putVersion(
  context: Context,
  { params, query, caller, http }: Request<typeof postShelfVersion>,
): Promise<Answer<typeof postShelfVersion>> {
  const { db } = context;
  const row = await findThing(db, params.id, caller);
  if (row?.thing.kind !== "file") throw notFound("file");
  refuse(await roomFor(context, http));
  const { id: blobId } = await storeBlob(db, bodyOf(http));
  return db.transaction(async (tx) => {
    const thing = await lockThing(tx, params.id);
    if (thing === undefined || thing.takenOffAt !== null) throw notFound("file");
    const [newest] = await listVersions(tx, params.id);
    const version = (newest?.number ?? 0) + 1;
    const name = safeName(query.name, 0);
    await storeVersion(tx, { thingId: params.id, number: version, blobId, name, by: caller.name });
    await storeChange(tx, params.id, { version });
    const { title } = thing;
    await noteAll(tx, params.id, { name: caller.name, title, version }, caller);
    return { version, besideAnother: thing.version !== query.version };
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
    await noteAll(tx, params.id, { name: caller.name, title: thing.title, version }, caller);
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
  const found = orRefuse(await loadList(db, query.list, caller));
  await db.transaction(async (tx) => {
    const thing = await lockThing(tx, params.id);
    const places = await listPlaces(tx, [params.id], caller);
    if (thing === undefined || !places.some(({ id }) => id === found.id)) throw notFound("thing");
    // The last list stays with it, for whoever asks what was there.
    if (places.length === 1) await storeChange(tx, params.id, { takenOffAt: new Date() });
    else await storePlaces(tx, params.id, [], [found.id]);
    const sentence = t("shelf.takenOff", { name: caller.name, title: thing.title });
    await noteShelf(tx, caller, [found.id], sentence);
  });
  return { done: true as const };
}

async function noteAll(
  tx: Queries,
  thing: string,
  values: { name: string; title: string; version: number },
  caller: Parameters<typeof noteShelf>[1],
): Promise<void> {
  const places = await listPlaces(tx, [thing], caller);
  const lists = places.map(({ id }) => id);
  await noteShelf(tx, caller, lists, t("shelf.newVersion", values));
}

import type { postShelfFile, postShelfLink } from "@amigo/contract/shelf";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { orRefuse, refuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { loadList, type LoadedList } from "../membership/loadList";
import { refused, Refused } from "../refused";
import { safeName } from "../sandbox/safeName";
import { t } from "../texts/t";
import { bodyOf } from "./bodyOf";
import { storeBlob } from "./blobs";
import { roomFor } from "./roomFor";
import { storeThing, storeVersion } from "./queries";

/** Puts a file on a list's shelf, once all of it has come. */
export async function putFile(
  context: Context,
  { params, query, caller, http }: Request<typeof postShelfFile>,
): Promise<Answer<typeof postShelfFile>> {
  const { db } = context;
  const found = orRefuse(await openList(db, params.id, caller));
  refuse(await roomFor(context, http));
  const name = safeName(query.name, 0);
  const { id: blobId } = await storeBlob(db, bodyOf(http));
  const title = titleOf(name);
  return db.transaction(async (tx) => {
    const { folder } = query;
    const made = {
      kind: "file" as const,
      title,
      folder,
      accountId: caller.id,
      madeBy: caller.name,
    };
    const id = await storeThing(tx, made, found.id);
    await storeVersion(tx, { thingId: id, number: 1, blobId, name, by: caller.name });
    await noteShelf(tx, caller, [found.id], t("shelf.putThere", { name: caller.name, title }));
    return { id };
  });
}

/** Puts a link on a list's shelf. */
export async function putLink(
  { db }: Context,
  { params, body, caller }: Request<typeof postShelfLink>,
): Promise<Answer<typeof postShelfLink>> {
  const found = orRefuse(await openList(db, params.id, caller));
  const { title, link, folder } = body;
  return db.transaction(async (tx) => {
    const by = { accountId: caller.id, madeBy: caller.name };
    const id = await storeThing(tx, { kind: "link", title, link, folder, ...by }, found.id);
    await noteShelf(tx, caller, [found.id], t("shelf.putThere", { name: caller.name, title }));
    return { id };
  });
}

/** Returns a list that is open and that somebody looks after. */
export async function openList(
  db: Queries,
  id: string,
  caller: Caller,
): Promise<LoadedList | Refused> {
  const found = await loadList(db, id, caller);
  if (found instanceof Refused) return found;
  return found.closedAt === null
    ? found
    : refused(409, "shelf/closed", t("shelf.theListIsClosed"), "id");
}

/** A file's name without its ending, as a person would call it. */
function titleOf(name: string): string {
  const bare = name
    // A number at the end is part of the name, as in "Budget 2026.27".
    .replace(/\.(?=[A-Za-z0-9]*[A-Za-z])[A-Za-z0-9]{1,5}$/, "")
    .replace(/_+/g, " ")
    .trim();
  return bare === "" ? name : bare;
}

/** Writes into the journal what somebody did with a shelf, for each of its lists. */
export async function noteShelf(
  tx: Queries,
  caller: Caller,
  lists: readonly string[],
  sentence: string,
): Promise<void> {
  const entry = { actorId: caller.id, actor: caller.name, action: "share on shelf" as const };
  await record(tx, ...lists.map((listId) => ({ ...entry, listId, sentence })));
  await notify(tx, "shelf");
}

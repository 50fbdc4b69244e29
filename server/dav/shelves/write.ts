import type { Context as HonoContext } from "hono";
import { say } from "@amigo/language/say";
import type { Caller } from "../../callers/caller";
import type { Context } from "../../context";
import type { Database } from "../../db/connect";
import { Refused } from "../../refused";
import { safeName } from "../../sandbox/safeName";
import { asAuthor, memberAuthor, type Author } from "../../shelf/author";
import { addVersion, moveFile, receiveVersion, takeOffList } from "../../shelf/changeThing";
import { withinMemberLimit } from "../../shelf/memberLimit";
import { listListsOfThings } from "../../shelf/placeQueries";
import { receiveFile, storeFile } from "../../shelf/putThings";
import { listThings } from "../../shelf/queries";
import { refusedKind } from "../../shelf/refusedKind";
import { fault } from "../answers";
import { dav } from "../xml";
import { lockedPlace, refusedByLock } from "./locks";
import { tagOf } from "./properties";
import { endLocksAt, removeFolder, storeFolder } from "./queries";
import { contentsOf, mayWrite, nodeAt, type Node, type ShelfFile } from "./tree";

type FileNode = Extract<Node, { at: "file" }>;
type NothingNode = Extract<Node, { at: "nothing" }>;
type FolderNode = Extract<Node, { at: "folder" }>;

/** A request that changes something, by an account, at a node. */
export interface Writing<At extends Node = Node> {
  context: Context;
  caller: Caller;
  node: At;
  http: HonoContext;
}

const status = (code: number): Response => new Response(null, { status: code });

function refusal({ status: code, detail }: Refused): Response {
  return code === 413
    ? fault(507, dav("quota-not-exceeded"), say(detail))
    : fault(code === 422 ? 403 : code, dav("need-privileges"), say(detail));
}

/** Whether a name is one that programs keep for themselves; members would see it among their files. */
function isHidden(name: string): boolean {
  return name.startsWith(".");
}

/** Puts a file, new or as a new version of the one that is there (RFC 4918, section 9.7). */
export async function answerPut(writing: Writing): Promise<Response> {
  const { context, caller, node, http } = writing;
  const { db } = context;
  if (node.at !== "file" && node.at !== "nothing") return status(405);
  const met = isMet(http, node.at === "file" ? node.file : undefined);
  if (!met) return status(412);
  const denied = await deniedFor(db, caller, node);
  if (denied !== undefined) return denied;
  const locked = await refusedByLock(db, caller, node, http.req.header("If"));
  if (locked !== undefined) return locked;
  const author = await authorAt(db, caller, node);
  const blobId =
    node.at === "nothing"
      ? await receiveFile(
          context,
          author,
          { upload: undefined, name: node.name, lists: [node.shelf.listId] },
          http,
        )
      : await receiveVersion(
          context,
          author,
          node.file.row.thing.id,
          { name: node.file.row.name ?? node.file.name },
          http,
        );
  if (blobId instanceof Refused) return refusal(blobId);
  if (node.at === "nothing") {
    const folder = await folderAsKept(db, node);
    await storeFile(db, author, [node.shelf.listId], { blobId, name: node.name, folder });
    return status(201);
  }
  const { thing, name } = node.file.row;
  const file = { blobId, name: name ?? node.file.name, version: thing.version };
  const added = await addVersion(db, author, thing.id, file);
  return added instanceof Refused ? refusal(added) : status(204);
}

/** Refuses what an account may not write on a shelf, or as a member not so much of. */
async function deniedFor(
  db: Database,
  caller: Caller,
  node: FileNode | NothingNode,
): Promise<Response | undefined> {
  if (!mayWrite(node) || (node.at === "nothing" && isHidden(node.name)))
    return fault(403, dav("need-privileges"));
  const limit = node.shelf.as === "member" ? await withinMemberLimit(db, caller.email) : undefined;
  return limit === undefined ? undefined : refusal(limit);
}

/** Who writes at a node: the account, or on the shelf of a list that it is only on, the member. */
function authorAt(
  db: Database,
  caller: Caller,
  { shelf }: FileNode | NothingNode,
): Promise<Author> | Author {
  return shelf.as === "lead" ? asAuthor(caller) : memberAuthor(db, caller.email);
}

/** Whether the conditions of a request hold (RFC 9110, section 13.1). */
function isMet(http: HonoContext, there: ShelfFile | undefined): boolean {
  const names = (header: string): boolean =>
    there !== undefined &&
    header
      .split(",")
      .map((tag) => tag.trim().replace(/^W\//, ""))
      .some((tag) => tag === "*" || tag === tagOf(there));
  const [match, noneMatch] = [http.req.header("If-Match"), http.req.header("If-None-Match")];
  return (match === undefined || names(match)) && !(noneMatch !== undefined && names(noneMatch));
}

/** The name of a folder as its things have it, which may hold what no path can. */
async function folderAsKept(db: Database, { shelf, folder }: NothingNode): Promise<string> {
  if (folder === "") return "";
  const things = await listThings(db, [shelf.listId]);
  const kept = things.find(({ thing }) => safeName(thing.folder, 0) === folder);
  return kept?.thing.folder ?? folder;
}

/** Takes a file off its shelf, or a folder with all files in it (RFC 4918, section 9.6). */
export async function answerDelete({ context, caller, node, http }: Writing): Promise<Response> {
  const { db } = context;
  if (node.at === "nothing") return status(404);
  if (node.at !== "file" && node.at !== "folder") return fault(403, dav("need-privileges"));
  const locked = await refusedByLock(db, caller, node, http.req.header("If"), true);
  if (locked !== undefined) return locked;
  const { listId } = node.shelf;
  const files =
    node.at === "file"
      ? [node.file]
      : (await contentsOf(db, caller, node.shelf)).files.filter(
          ({ folder }) => folder === node.folder,
        );
  if (files.some(({ mayTakeOff }) => !mayTakeOff)) return fault(403, dav("need-privileges"));
  for (const { row } of files) {
    const refused = await takeOffList(db, caller, row.thing.id, listId);
    if (refused !== undefined) return refusal(refused);
  }
  if (node.at === "folder") await removeFolder(db, listId, node.folder);
  const place = lockedPlace(node);
  if (place !== undefined) await endLocksAt(db, place);
  return status(204);
}

/** Makes a folder on a shelf; there are none in folders (RFC 4918, section 9.3). */
export async function answerMkcol({ context, caller, node, http }: Writing): Promise<Response> {
  const { db } = context;
  if (node.at !== "nothing") return status(405);
  if ((await http.req.text()) !== "") return status(415);
  const isKept = node.folder === "" && !isHidden(node.name) && safeName(node.name, 0) === node.name;
  if (!isKept || !node.shelf.mayAdd) return fault(403, dav("need-privileges"));
  const locked = await refusedByLock(db, caller, node, http.req.header("If"));
  if (locked !== undefined) return locked;
  await storeFolder(db, node.shelf.listId, node.name);
  return status(201);
}

/** Copies or moves a file, or gives a folder another name (RFC 4918, sections 9.8 and 9.9). */
export async function answerCopyOrMove(writing: Writing): Promise<Response> {
  const { context, caller, node, http } = writing;
  const { db } = context;
  const isMove = http.req.method === "MOVE";
  const target = await targetOf(writing);
  if (target === undefined) return status(409);
  if (target instanceof Response) return target;
  if (node.at === "nothing") return status(404);
  if (target.at === "file" && http.req.header("Overwrite")?.toUpperCase() === "F")
    return status(412);
  const header = http.req.header("If");
  const locked =
    (isMove ? await refusedByLock(db, caller, node, header, true) : undefined) ??
    (await refusedByTarget(writing, target, header));
  if (locked !== undefined) return locked;
  if (node.at === "folder" && target.at === "nothing")
    return isMove ? moveFolder(writing, node, target) : fault(403, dav("need-privileges"));
  if (node.at !== "file" || (target.at !== "file" && target.at !== "nothing"))
    return fault(403, dav("need-privileges"));
  const denied = await deniedFor(db, caller, target);
  if (denied !== undefined) return denied;
  return isMove ? move(writing, node, target) : copy(writing, node, target);
}

/** Tokens are named for source and target together, so that of those that aren't the target's nothing follows. */
async function refusedByTarget(
  { context: { db }, caller }: Writing,
  target: Node,
  header: string | undefined,
): Promise<Response | undefined> {
  const locked = await refusedByLock(db, caller, target, header);
  return locked?.status === 423 ? locked : undefined;
}

/** Where something goes to: a path, or a whole address of this server. */
async function targetOf({ context, caller, http }: Writing): Promise<Node | Response | undefined> {
  const named = http.req.header("Destination") ?? "";
  if (!URL.canParse(named, "http://here/")) return status(400);
  const { host, pathname } = new URL(named, "http://here/");
  if (host !== "here" && host !== http.req.header("Host")) return status(502);
  return pathname.startsWith("/shelves/") ? nodeAt(context.db, caller, pathname) : status(502);
}

async function copy(
  { context: { db }, caller }: Writing,
  { file }: FileNode,
  target: FileNode | NothingNode,
): Promise<Response> {
  const author = await authorAt(db, caller, target);
  const blobId = file.row.blobId ?? "";
  if (target.at === "nothing") {
    const folder = await folderAsKept(db, target);
    const { name } = target;
    const kind = await refusedKind(db, [target.shelf.listId], name);
    if (kind !== undefined) return refusal(kind);
    await storeFile(db, author, [target.shelf.listId], { blobId, name, folder });
    return status(201);
  }
  const { thing, name } = target.file.row;
  const version = { blobId, name: name ?? target.file.name, version: thing.version };
  const added = await addVersion(db, author, thing.id, version);
  return added instanceof Refused ? refusal(added) : status(204);
}

async function move(
  writing: Writing,
  source: FileNode,
  target: FileNode | NothingNode,
): Promise<Response> {
  const {
    context: { db },
    caller,
  } = writing;
  const { row, mayTakeOff } = source.file;
  if (!mayTakeOff) return fault(403, dav("need-privileges"));
  const from = source.shelf.listId;
  const place = lockedPlace(source);
  if (target.at === "file") {
    if (target.file.row.thing.id === row.thing.id) return status(403);
    const copied = await copy(writing, source, target);
    if (copied.status !== 204) return copied;
    const refused = await takeOffList(db, caller, row.thing.id, from);
    if (refused !== undefined) return refusal(refused);
  } else {
    const folder = await folderAsKept(db, target);
    // It goes by its new name on all of its lists.
    const lists = (await listListsOfThings(db, [row.thing.id])).map(({ id }) => id);
    const kind = await refusedKind(db, [...lists, target.shelf.listId], target.name);
    if (kind !== undefined) return refusal(kind);
    const to = { name: target.name, folder, from, list: target.shelf.listId };
    await moveFile(db, caller, row, to);
  }
  if (place !== undefined) await endLocksAt(db, place);
  return status(target.at === "file" ? 204 : 201);
}

async function moveFolder(
  { context: { db }, caller }: Writing,
  { shelf, folder }: FolderNode,
  target: NothingNode,
): Promise<Response> {
  const { listId } = shelf;
  if (
    shelf.as !== "lead" ||
    target.shelf.listId !== listId ||
    target.folder !== "" ||
    isHidden(target.name)
  )
    return fault(403, dav("need-privileges"));
  const { files } = await contentsOf(db, caller, shelf);
  for (const { row, folder: of, name } of files)
    if (of === folder)
      await moveFile(db, caller, row, {
        ...{ name, folder: target.name },
        ...{ from: listId, list: listId },
      });
  await removeFolder(db, listId, folder);
  await storeFolder(db, listId, target.name);
  await endLocksAt(db, { listId, path: folder });
  return status(201);
}

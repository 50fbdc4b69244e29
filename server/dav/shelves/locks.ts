import type { Caller } from "../../callers/caller";
import type { Database, Queries } from "../../db/connect";
import { fault } from "../answers";
import { childOf, dav, DAV, parseXml, writeXml, type Xml } from "../xml";
import {
  endLock,
  listLocks,
  LOCK_SECONDS,
  renewLock,
  storeLock,
  waitForLocks,
  type LockedPlace,
  type LockRow,
} from "./queries";
import { pathOf, type Node } from "./tree";

const TOKEN = /<urn:uuid:([0-9a-f-]{36})>/gi;

/** Returns the place of a node as locks have it; none above all shelves, where nothing can be locked. */
export function lockedPlace(node: Node): LockedPlace | undefined {
  const inFolder = (folder: string, name: string): string =>
    folder === "" ? name : `${folder}/${name}`;
  switch (node.at) {
    case "root":
      return undefined;
    case "shelf":
      return { listId: node.shelf.listId, path: "" };
    case "folder":
      return { listId: node.shelf.listId, path: node.folder };
    case "file":
      return { listId: node.shelf.listId, path: inFolder(node.file.folder, node.file.name) };
    case "nothing":
      return { listId: node.shelf.listId, path: inFolder(node.folder, node.name) };
  }
}

/** The tokens of locks that a program says it has (RFC 4918, section 10.4). */
export function tokensIn(header: string | undefined): Set<string> {
  return new Set([...(header ?? "").matchAll(TOKEN)].map(([, token = ""]) => token.toLowerCase()));
}

/** Refuses to write where another has locked, or a lock is named that is no more; undefined where nothing stands in the way. */
export async function refusedByLock(
  db: Queries,
  caller: Caller,
  node: Node,
  header: string | undefined,
  withBelow = false,
): Promise<Response | undefined> {
  const place = lockedPlace(node);
  if (place === undefined) return undefined;
  const locks = await listLocks(db, place, withBelow);
  const named = tokensIn(header);
  const isTheirs = ({ token, accountId }: LockRow): boolean =>
    accountId === caller.id && named.has(token);
  // Of several that share a place, having one is enough.
  const isHeld = locks.length > 0 && !locks.some(isTheirs);
  if (isHeld) return fault(423, dav("lock-token-submitted", dav("href", pathOf(node))));
  const isGone = named.size > 0 && !locks.some(({ token }) => named.has(token));
  return isGone ? new Response(null, { status: 412 }) : undefined;
}

/** Locks a place, or lets a lock last on (RFC 4918, section 9.10). Where nothing stands yet, the name is kept free for the program. */
export async function answerLock(
  db: Database,
  caller: Caller,
  node: Node,
  headers: { depth: string | undefined; if: string | undefined },
  body: string,
): Promise<Response> {
  const place = lockedPlace(node);
  if (place === undefined) return new Response(null, { status: 403 });
  if (body.trim() === "") {
    for (const token of tokensIn(headers.if)) {
      const renewed = await renewLock(db, token, caller.id);
      if (renewed !== undefined) return lockAnswer(200, node, renewed);
    }
    return new Response(null, { status: 412 });
  }
  const asked = parseXml(body);
  if (asked?.namespace !== DAV || asked.name !== "lockinfo")
    return new Response(null, { status: 400 });
  const isShared = childOf(childOf(asked, DAV, "lockscope"), DAV, "shared") !== undefined;
  const owner = childOf(asked, DAV, "owner");
  return db.transaction(async (tx) => {
    await waitForLocks(tx, place.listId);
    const isDeep = headers.depth !== "0";
    const others = await listLocks(tx, place, isDeep);
    if (others.some((lock) => !isShared || !lock.isShared))
      return fault(423, dav("no-conflicting-lock"));
    const lock = await storeLock(tx, {
      ...place,
      accountId: caller.id,
      isDeep,
      isShared,
      owner: (owner?.text ?? "").trim().slice(0, 200),
    });
    return lockAnswer(node.at === "nothing" ? 201 : 200, node, lock);
  });
}

function lockAnswer(status: number, node: Node, lock: LockRow): Response {
  return new Response(writeXml(dav("prop", dav("lockdiscovery", activeLock(node, lock)))), {
    status,
    headers: {
      "Content-Type": "application/xml; charset=utf-8",
      "Lock-Token": `<urn:uuid:${lock.token}>`,
    },
  });
}

/** A lock as it is told (RFC 4918, section 14.1). */
export function activeLock(node: Node, { token, isDeep, isShared, owner }: LockRow): Xml {
  return dav(
    "activelock",
    dav("locktype", dav("write")),
    dav("lockscope", dav(isShared ? "shared" : "exclusive")),
    dav("depth", isDeep ? "infinity" : "0"),
    ...(owner === "" ? [] : [dav("owner", owner)]),
    dav("timeout", `Second-${LOCK_SECONDS}`),
    dav("locktoken", dav("href", `urn:uuid:${token}`)),
    dav("lockroot", dav("href", pathOf(node))),
  );
}

/** Ends a lock (RFC 4918, section 9.11). */
export async function answerUnlock(
  db: Database,
  caller: Caller,
  header: string | undefined,
): Promise<Response> {
  const [token] = tokensIn(header);
  if (token === undefined) return new Response(null, { status: 400 });
  const isEnded = await endLock(db, token, caller.id);
  return isEnded
    ? new Response(null, { status: 204 })
    : fault(409, dav("lock-token-matches-request-uri"));
}

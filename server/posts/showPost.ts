import { Refused } from "../refused";
import type { getPost } from "@amigo/contract/posts";
import { isForGood } from "@amigo/core/mail/bounces/sortOf";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { orRefuse, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { loadList } from "../membership/loadList";
import { seesMembers } from "../membership/scope";
import { whoBelongs } from "../membership/whoBelongs";
import { showMessage } from "../posting/showMessage";
import { decidableHeld } from "./decidableHeld";
import { isKept } from "./isKept";
import { missedOf } from "./missedOf";
import { listMissed } from "./missedQueries";
import { mayManage } from "./mayManage";
import { withLists } from "./withLists";
import { findShownPost, listCopies, listThread } from "./queries";
import { findRawOf } from "../posting/heldQueries";

/** Returns one post with its delivery to each recipient. */
export async function showPost(
  { db }: Context,
  { params, caller }: Request<typeof getPost>,
): Promise<Answer<typeof getPost>> {
  const found = await findShownPost(db, params.id, caller);
  if (found === undefined) throw notFound("post");
  const [line] = await withLists(db, caller, [found]);
  const raw = await findRawOf(db, found.messageRow);
  const kept = found.erasedAt === null && (await isKept(db, found));
  const shown =
    raw === undefined || !kept
      ? { text: "", html: "", attachments: [] }
      : await showMessage(raw.raw);
  const all = await listCopies(db, found.id, found.accountId, caller.id);
  const isSent = found.outcome === "goes out" && found.reaches === "members";
  const ofPost = isSent ? (line?.lists ?? []).map(({ id }) => id) : [];
  const seen = await seesMembers(db, caller, [
    ...new Set([...all.flatMap(({ listId }) => listId ?? []), ...ofPost]),
  ]);
  const missed = await listMissed(
    db,
    found.id,
    ofPost.filter((id) => seen.has(id)),
  );
  const rows = all.filter(({ listId }) => listId === null || seen.has(listId));
  const names = orRefuse(
    await namesByAddress(db, caller, [
      ...new Set([
        ...rows.flatMap(({ listId }) => (listId === null ? [] : [listId])),
        ...missed.map(({ list }) => list),
      ]),
    ]),
  );
  if (line === undefined) throw notFound("post");
  return {
    ...line,
    fromAddress: found.fromAddress,
    reasons: found.reasons,
    ...shown,
    kept,
    decided:
      found.decidedAt === null ? null : { by: found.decidedBy, at: found.decidedAt.toISOString() },
    mayManage: await mayManage(db, caller, found, "a list"),
    mayManageAll: await mayManage(db, caller, found, "all"),
    thread: await threadOf(db, caller, found),
    mayDecide:
      found.outcome === "held" && (await decidableHeld(db, caller, [found.id])).has(found.id),
    missed: missed.map((row) => missedOf(row, names.get(row.address) ?? "")),
    recipients: rows.map(({ address, state, attempts, reply, sentAt, nextAt, sort }) => ({
      retry:
        state === "deferred" ||
        state === "cancelled" ||
        (state === "bounced" && (sort === null || !isForGood(sort))),
      address,
      people: names.get(address) ?? "",
      state,
      attempts,
      reply,
      at: sentAt?.toISOString() ?? null,
      nextAt: state === "deferred" ? nextAt.toISOString() : null,
    })),
  };
}

/** The other posts of a thread that somebody may see, the oldest first; none where it is alone. */
async function threadOf(db: Queries, caller: Caller, { thread }: { thread: string | null }) {
  if (thread === null) return [];
  const rows = await listThread(db, thread, caller);
  return rows.length < 2
    ? []
    : rows.map(({ id, subject, fromName, fromAddress, at }) => ({
        id,
        subject,
        from: fromName || fromAddress,
        at: at.toISOString(),
      }));
}

/** Names of the people behind the addresses of some lists. */
async function namesByAddress(
  db: Queries,
  caller: Caller,
  lists: readonly string[],
): Promise<Map<string, string>> {
  const names = new Map<string, Set<string>>();
  for (const id of lists) {
    const found = await loadList(db, id, caller);
    if (found instanceof Refused) continue;
    for (const { name, addresses } of await whoBelongs(db, found))
      for (const address of addresses)
        names.set(address, (names.get(address) ?? new Set<string>()).add(name));
  }
  return new Map([...names].map(([address, people]) => [address, [...people].join(", ")]));
}

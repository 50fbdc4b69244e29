import type {
  deleteShelfComment,
  postShelfComment,
  putShelfFollow,
  ShelfComment,
} from "@amigo/contract/shelf";
import { commentNote } from "@amigo/core/mail/commentNote";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { notFound } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { sendFamilyNote, sendNote } from "../posting/sendNote";
import { asAuthor, type Author } from "./author";
import {
  emptyComment,
  listFollowers,
  storeComment,
  storeFollowing,
  type CommentRow,
} from "./commentQueries";
import { mayAddressesOpen } from "./openers";
import { listListsOfThings, listPlaces } from "./placeQueries";
import { findThing, type ThingRow } from "./queries";

/** Says something about a thing on a shelf that somebody looks after. */
export async function commentOnThing(
  context: Context,
  { params, body, caller }: Request<typeof postShelfComment>,
): Promise<Answer<typeof postShelfComment>> {
  const row = await findThing(context.db, params.id, caller);
  if (row === undefined) throw notFound("thing");
  await say(context, row, { ...asAuthor(caller), email: caller.email }, body);
  return { done: true as const };
}

/** Takes a comment out, whoever wrote it. */
export async function takeCommentOut(
  { db }: Context,
  { params, caller }: Request<typeof deleteShelfComment>,
): Promise<Answer<typeof deleteShelfComment>> {
  const row = await findThing(db, params.id, caller);
  if (row === undefined || !(await emptyComment(db, params.id, params.comment, caller.name)))
    throw notFound("comment");
  await notify(db, "shelf");
  return { done: true as const };
}

/** Chooses whether an account is told by mail what others say about a thing. */
export async function followThing(
  { db }: Context,
  { params, body, caller }: Request<typeof putShelfFollow>,
): Promise<Answer<typeof putShelfFollow>> {
  const row = await findThing(db, params.id, caller);
  if (row === undefined) throw notFound("thing");
  await storeFollowing(db, params.id, caller.email, caller.id, body.follows);
  return { done: true as const };
}

/** Stores what somebody says, and tells those who follow it, in one transaction. */
export async function say(
  { db, settings }: Pick<Context, "db" | "settings">,
  row: ThingRow,
  author: Author & { email: string },
  { text, follow }: { text: string; follow: boolean },
): Promise<void> {
  const { id, title } = row.thing;
  await db.transaction(async (tx) => {
    await storeComment(tx, id, author, text);
    for (const { address, list, url, isStaff } of await listTold(tx, row, settings.url)) {
      if (address === author.email) continue;
      const note = commentNote({ title, list, name: author.name, text, url });
      if (isStaff) await sendNote(tx, { name: "", address }, note);
      else await sendFamilyNote(tx, { name: "", address }, () => note);
    }
    if (follow) await storeFollowing(tx, id, author.email, author.accountId, true);
    await notify(tx, "shelf");
  });
}

/** Lists those who follow a thing and may know of it now, each with the list by which they do and where they read it. */
async function listTold(tx: Queries, row: ThingRow, url: string) {
  const { id } = row.thing;
  const followers = await listFollowers(tx, id);
  const titles = new Map((await listListsOfThings(tx, [id])).map((one) => [one.id, one.title]));
  const addresses = followers.map(({ address }) => address);
  const members = await mayAddressesOpen(tx, row, addresses, new Date());
  const told: { address: string; list: string; url: string; isStaff: boolean }[] = [];
  for (const { address, account } of followers) {
    const caller: Caller | undefined = account === null ? undefined : { ...account, by: "session" };
    const theirs =
      caller === undefined
        ? undefined
        : (await listPlaces(tx, [id], caller)).find(({ isTheirs }) => isTheirs);
    const found = members.get(address);
    if (theirs !== undefined)
      told.push({
        address,
        isStaff: true,
        list: theirs.title,
        url: theirs.isPrivate
          ? `${url}/mail/private/${theirs.id}`
          : `${url}/lists/${theirs.id}?tab=shelf`,
      });
    else if (found?.may === true)
      told.push({
        address,
        isStaff: account !== null,
        list: titles.get(found.list) ?? "",
        url: `${url}/member/shelf/${id}`,
      });
  }
  return told;
}

/** A comment as somebody sees it. */
export function shownComment(
  { id, name, at, content, takenOutBy, address }: CommentRow,
  mayTakeOut: (address: string | null) => boolean,
): ReturnType<typeof ShelfComment.parse> {
  return {
    id,
    name,
    at: at.toISOString(),
    text: content,
    takenOutBy: takenOutBy ?? "",
    mayTakeOut: takenOutBy === null && mayTakeOut(address),
  };
}

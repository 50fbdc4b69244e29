import type { getMemberShelf, MemberThing } from "@amigo/contract/memberShelf";
import { fileType } from "@amigo/core/shelf/fileType";
import { memberMay } from "@amigo/core/shelf/membersMay";
import type { Context } from "../context";
import type { Answer, Request } from "../http/handler";
import { countComments } from "./commentQueries";
import { openableBy } from "./openers";
import { listListsOfThings } from "./placeQueries";
import { listAddable, listOpenings } from "./queries";

/** Returns what a member's lists share with them now, what they may do with it, and to which they may add. */
export async function showMemberShelf(
  { db }: Context,
  { member }: Request<typeof getMemberShelf>,
): Promise<Answer<typeof getMemberShelf>> {
  const mayAddTo = await listAddable(db, member);
  const found = await openableBy(db, member, new Date());
  const ids = found.map(({ row }) => row.thing.id);
  if (ids.length === 0) return { things: [], mayAddTo };
  const titles = new Map((await listListsOfThings(db, ids)).map(({ id, title }) => [id, title]));
  const opened = new Set(
    (await listOpenings(db, ids))
      .filter(({ address }) => address === member)
      .map(({ thingId }) => thingId),
  );
  const comments = await countComments(db, ids);
  const things = found.map(({ row: { thing, name, size }, may }): MemberThing => {
    const isTheirs = thing.address === member;
    return {
      id: thing.id,
      kind: thing.kind,
      title: thing.title,
      folder: thing.folder,
      listId: may.list,
      list: titles.get(may.list) ?? "",
      name: name ?? "",
      size: size ?? 0,
      version: thing.version,
      untilDay: thing.untilDay ?? "",
      madeBy: thing.madeBy,
      madeAt: thing.madeAt.toISOString(),
      shownAs: thing.kind === "link" ? "" : fileType(name ?? "").shownAs,
      isOpened: opened.has(thing.id),
      mayComment: memberMay(may, thing.membersMay, "comment", isTheirs),
      mayChange: thing.kind === "file" && memberMay(may, thing.membersMay, "change", isTheirs),
      isTheirs,
      comments: comments.get(thing.id) ?? 0,
    };
  });
  return { things, mayAddTo };
}

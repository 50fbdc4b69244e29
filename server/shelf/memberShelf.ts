import type { getMemberShelf } from "@amigo/contract/shelf";
import { fileType } from "@amigo/core/shelf/fileType";
import type { Context } from "../context";
import type { Answer, Request } from "../http/handler";
import { openableBy } from "./openers";
import { listListsOfThings, listOpenings } from "./queries";

/** Returns what a member's lists share with them now. */
export async function showMemberShelf(
  { db }: Context,
  { member }: Request<typeof getMemberShelf>,
): Promise<Answer<typeof getMemberShelf>> {
  const found = await openableBy(db, member, new Date());
  const ids = found.map(({ row }) => row.thing.id);
  if (ids.length === 0) return [];
  const titles = new Map((await listListsOfThings(db, ids)).map(({ id, title }) => [id, title]));
  const opened = new Set(
    (await listOpenings(db, ids))
      .filter(({ address }) => address === member)
      .map(({ thingId }) => thingId),
  );
  return found.map(({ row: { thing, name, size }, list }) => ({
    id: thing.id,
    kind: thing.kind,
    title: thing.title,
    folder: thing.folder,
    list: titles.get(list) ?? "",
    name: name ?? "",
    size: size ?? 0,
    version: thing.version,
    untilDay: thing.untilDay ?? "",
    madeBy: thing.madeBy,
    madeAt: thing.madeAt.toISOString(),
    isShown: thing.kind === "link" || fileType(name ?? "").isShown,
    isOpened: opened.has(thing.id),
  }));
}

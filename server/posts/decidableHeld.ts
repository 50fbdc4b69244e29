import { eq, and, inArray } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { list } from "../db/schema/lists";
import { postList } from "../db/schema/posts";
import { listsOf } from "../membership/scope";

/** Which of some posts somebody may decide on: those of lists that they see, which are the ones that they lead, help with or coordinate. */
export async function decidableHeld(
  db: Queries,
  caller: Caller,
  ids: readonly string[],
): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await db
    .select({ id: postList.postId })
    .from(postList)
    .innerJoin(list, eq(list.id, postList.listId))
    .where(and(inArray(postList.postId, [...ids]), listsOf(caller)));
  return new Set(rows.map(({ id }) => id));
}

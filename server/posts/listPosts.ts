import { refuse } from "../http/fault";
import { type SQL, sql, eq, isNull, lt } from "drizzle-orm";
import type { getPosts } from "@amigo/contract/posts";
import type { Context } from "../context";
import { postList, post } from "../db/schema/posts";
import type { Request, Answer } from "../http/handler";
import { loadList } from "../membership/loadList";
import { visiblePosts } from "../membership/scope";
import { searchOf } from "../posting/searchOf";
import { withLists } from "./withLists";
import { listShownPosts } from "./queries";

/** Returns a page of posts, newest first. */
export async function listPosts(
  { db }: Context,
  { query, caller }: Request<typeof getPosts>,
): Promise<Answer<typeof getPosts>> {
  if (query.list !== undefined) refuse(await loadList(db, query.list, caller));
  const conditions: SQL[] = [visiblePosts(caller)];
  if (query.list !== undefined)
    conditions.push(
      sql`exists (select 1 from ${postList} where ${postList.postId} = ${post.id} and ${postList.listId} = ${query.list})`,
    );
  if (query.by === "me") conditions.push(eq(post.accountId, caller.id));
  if (query.q !== "")
    conditions.push(sql`${post.words} @@ ${searchOf(query.q)}`, isNull(post.takenOutAt));
  if (query.before !== undefined) conditions.push(lt(post.at, new Date(query.before)));
  const rows = await listShownPosts(db, conditions);
  return withLists(db, caller, rows);
}

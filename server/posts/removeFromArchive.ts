import { sql, eq } from "drizzle-orm";
import { type postTakeOut } from "@amigo/contract/posts";
import type { Context } from "../context";
import { post } from "../db/schema/posts";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { manageable } from "./manageable";
import { told } from "./told";

export async function removeFromArchive(
  { db }: Context,
  { params, body, caller }: Request<typeof postTakeOut>,
): Promise<Answer<typeof postTakeOut>> {
  const own = await manageable(db, params.id, caller, "all");
  await db
    .update(post)
    .set(
      body.out
        ? { takenOutBy: caller.name, takenOutAt: sql`now()` }
        : { takenOutBy: "", takenOutAt: null },
    )
    .where(eq(post.id, own.id));
  await told(
    db,
    own,
    caller,
    body.out ? "take out of archive" : "put back into archive",
    body.out ? t("posts.tookItOutOfThe") : t("posts.putItBackIntoThe"),
  );
  return { done: true as const };
}

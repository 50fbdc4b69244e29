import { orRefuse } from "../http/fault";
import type { postTakeOut } from "@amigo/contract/posts";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { storeTakenOut } from "./queries";
import { recordPostChange } from "./recordPostChange";
import { findManageablePost } from "./findManageablePost";

/** Takes a post out of the archive, or brings it back. */
export async function removeFromArchive(
  { db }: Context,
  { params, body, caller }: Request<typeof postTakeOut>,
): Promise<Answer<typeof postTakeOut>> {
  const managedPost = orRefuse(await findManageablePost(db, params.id, caller, "all"));
  await storeTakenOut(db, body.out, caller.name, managedPost.id);
  await recordPostChange(
    db,
    managedPost,
    caller,
    body.out ? "take out of archive" : "put back into archive",
    () => (body.out ? t("posts.tookItOutOfThe") : t("posts.putItBackIntoThe")),
  );
  return { done: true as const };
}

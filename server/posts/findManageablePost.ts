import { noSuch, type Refused, refused } from "../refused";
import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import { t } from "../texts/t";
import { mayManage } from "./mayManage";
import { findVisiblePost } from "./queries";
import type { ManagedPost } from "./takeBackPost";

/** A post that somebody may pause, cancel and the like: their own, or of a list that they lead or coordinate. */
export async function findManageablePost(
  db: Database,
  id: string,
  caller: Caller,
  of: "all" | "a list" = "a list",
): Promise<ManagedPost | Refused> {
  const found = await findVisiblePost(db, id, caller);
  if (found === undefined) return noSuch("post");
  if (!(await mayManage(db, caller, found, of)))
    return refused(
      403,
      "post/lead",
      of === "all" ? t("posts.whoeverWroteItCanDo2") : t("posts.whoeverWroteItCanDo"),
    );
  return found;
}

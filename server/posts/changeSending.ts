import type { postTakeBack, postPause, postCancel, postRetry } from "@amigo/contract/posts";
import type { Context } from "../context";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { takeBackPost, cancelCopies } from "./takeBackPost";
import { storePaused, queueAgain } from "./queries";
import { recordPostChange } from "./recordPostChange";
import { findManageablePost } from "./findManageablePost";

/** Takes a post back before anything of it has left; it is a draft again. */
export async function stopPost(
  { db }: Context,
  { params, caller }: Request<typeof postTakeBack>,
): Promise<Answer<typeof postTakeBack>> {
  return orRefuse(
    await takeBackPost(
      db,
      orRefuse(await findManageablePost(db, params.id, caller, "all")),
      caller,
    ),
  );
}

/** Pauses or resumes what has not left of a post. */
export async function pausePost(
  { db }: Context,
  { params, body, caller }: Request<typeof postPause>,
): Promise<Answer<typeof postPause>> {
  const managedPost = orRefuse(await findManageablePost(db, params.id, caller, "all"));
  await storePaused(db, body.paused, caller.name, managedPost.id);
  await recordPostChange(db, managedPost, caller, body.paused ? "pause post" : "resume post", () =>
    body.paused ? t("posts.letWhatHadNotLeft") : t("posts.letItGoOn"),
  );
  return { done: true as const };
}

/** Cancels what has not left of a post. */
export async function cancelRest(
  { db }: Context,
  { params, caller }: Request<typeof postCancel>,
): Promise<Answer<typeof postCancel>> {
  const managedPost = orRefuse(await findManageablePost(db, params.id, caller));
  const cancelled = await cancelCopies(db, managedPost.id, caller);
  await recordPostChange(db, managedPost, caller, "cancel post", () =>
    t("posts.cancelledThatHadNotLeft", { cancelled }),
  );
  return { cancelled };
}

/** Tries a copy once more now. */
export async function retryCopies(
  { db }: Context,
  { params, body, caller }: Request<typeof postRetry>,
): Promise<Answer<typeof postRetry>> {
  const managedPost = orRefuse(await findManageablePost(db, params.id, caller));
  const copy = await queueAgain(db, managedPost.id, caller, body.address);
  if (copy === undefined) throw new Refusal(409, "post/retry", t("posts.thisCopyWasDeliveredOr"));
  await recordPostChange(db, managedPost, caller, "retry", () =>
    t("posts.hadTheCopyToTried", { address: body.address }),
  );
  return { done: true as const };
}

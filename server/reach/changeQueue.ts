import { type postQueue } from "@amigo/contract/mail";
import type { Context } from "../context";
import { notify } from "../events/events";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { storeQueuePaused } from "./queries";

/** Pauses all sending, or resumes it. */
export async function changeQueue(
  { db }: Context,
  { body, caller }: Request<typeof postQueue>,
): Promise<Answer<typeof postQueue>> {
  await db.transaction(async (tx) => {
    await storeQueuePaused(tx, body.paused, caller.name);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: body.paused ? "pause queue" : "resume queue",
      sentence: () =>
        body.paused
          ? t("reach.pausedSending", { name: caller.name })
          : t("reach.resumedSending", { name: caller.name }),
    });
    await notify(tx, "queue", "posts", "board");
  });
  return { done: true as const };
}

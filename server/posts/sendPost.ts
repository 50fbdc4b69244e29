import type { postPost } from "@amigo/contract/posts";
import type { Context } from "../context";
import { sendDraft } from "../drafts/sendDraft";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { findSent, storeDraftOf, findDraftOf, removeUnsent } from "./sentQueries";

/** Sends a plain post to lists, from a script: it leaves at once, and once for one key. */
export async function sendPost(
  context: Context,
  { body, caller }: Request<typeof postPost>,
): Promise<Answer<typeof postPost>> {
  const { db } = context;
  if (body.lists.length + body.privately.length === 0)
    throw new Refusal(400, "bad-request", t("posts.chooseAListToWrite"), "lists");
  const before = await findSent(db, body.key, caller.id);
  if (before !== undefined)
    return {
      ...before,
      outcome: before.outcome === "held" ? ("held" as const) : ("goes out" as const),
    };
  await storeDraftOf(db, body, caller.id);
  const row = await findDraftOf(db, body.key, caller.id);
  if (row === undefined) throw new Refusal(409, "post/key", t("posts.thisKeyWasUsedBy"), "key");
  try {
    const { post: id, ...sent } = orRefuse(
      await sendDraft(context, caller, row, undefined, {
        text: body.text,
      }),
    );
    return { id: id ?? row.id, addresses: sent.addresses, outcome: sent.outcome };
  } catch (failure) {
    await removeUnsent(db, body.key);
    throw failure;
  }
}

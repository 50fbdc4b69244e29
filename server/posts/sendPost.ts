import { count, eq, and, isNull } from "drizzle-orm";
import { type postPost } from "@amigo/contract/posts";
import type { Context } from "../context";
import { delivery } from "../db/schema/deliveries";
import { draft } from "../db/schema/drafts";
import { post } from "../db/schema/posts";
import { sendDraft } from "../drafts/sendDraft";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { contentOf } from "./contentOf";

export async function sendPost(
  context: Context,
  { body, caller }: Request<typeof postPost>,
): Promise<Answer<typeof postPost>> {
  const { db } = context;
  if (body.lists.length + body.privately.length === 0)
    throw new Refusal(400, "bad-request", t("posts.chooseAListToWrite"), "lists");
  const [before] = await db
    .select({ id: post.id, outcome: post.outcome, addresses: count(delivery.id) })
    .from(post)
    .leftJoin(delivery, eq(delivery.postId, post.id))
    .where(and(eq(post.id, body.key), eq(post.accountId, caller.id)))
    .groupBy(post.id);
  if (before !== undefined)
    return {
      ...before,
      outcome: before.outcome === "held" ? ("held" as const) : ("goes out" as const),
    };
  await db
    .insert(draft)
    .values({
      id: body.key,
      accountId: caller.id,
      content: { ...contentOf(body), subject: body.subject },
    })
    .onConflictDoNothing();
  const [row] = await db
    .select()
    .from(draft)
    .where(and(eq(draft.id, body.key), eq(draft.accountId, caller.id)));
  if (row === undefined) throw new Refusal(409, "post/key", t("posts.thisKeyWasUsedBy"), "key");
  try {
    const { post: id, ...sent } = await sendDraft(context, caller, row, undefined, {
      text: body.text,
    });
    return { id: id ?? row.id, addresses: sent.addresses, outcome: sent.outcome };
  } catch (failure) {
    await db.delete(draft).where(and(eq(draft.id, body.key), isNull(draft.postId)));
    throw failure;
  }
}

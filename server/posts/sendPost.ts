import type { postPost } from "@amigo/contract/posts";
import type { Context } from "../context";
import { sendText } from "../drafts/sendText";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";

/** Sends a plain post to lists, from a script: it leaves at once, and once for one key. */
export async function sendPost(
  context: Context,
  { body, caller }: Request<typeof postPost>,
): Promise<Answer<typeof postPost>> {
  if (body.lists.length + body.privately.length === 0)
    throw new Refusal(400, "bad-request", t("posts.chooseAListToWrite"), "lists");
  return orRefuse(await sendText(context, caller, body));
}

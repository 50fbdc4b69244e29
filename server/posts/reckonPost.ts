import { orRefuse } from "../http/fault";
import type { postReckon } from "@amigo/contract/posts";
import type { Context } from "../context";
import { reckonDraft } from "../drafts/reckonDraft";
import type { Request, Answer } from "../http/handler";
import { contentOf } from "../drafts/contentOf";

/** Returns to how many addresses and families a post to some lists would go. */
export async function reckonPost(
  { db }: Context,
  { body, caller }: Request<typeof postReckon>,
): Promise<Answer<typeof postReckon>> {
  return orRefuse(await reckonDraft(db, caller, contentOf(body), 0));
}

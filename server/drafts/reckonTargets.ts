import { orRefuse } from "../http/fault";
import type { postReckonDraft } from "@amigo/contract/drafts";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { reckonDraft } from "./reckonDraft";

/** Returns to how many addresses and families a mail would go, and what is to be asked before. */
export async function reckonTargets(
  { db }: Context,
  { body, caller }: Request<typeof postReckonDraft>,
): Promise<Answer<typeof postReckonDraft>> {
  return orRefuse(await reckonDraft(db, caller, body.content, body.files));
}

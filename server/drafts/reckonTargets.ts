import { type postReckonDraft } from "@amigo/contract/drafts";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { reckonDraft } from "./reckonDraft";

export async function reckonTargets(
  { db }: Context,
  { body, caller }: Request<typeof postReckonDraft>,
): Promise<Answer<typeof postReckonDraft>> {
  return reckonDraft(db, caller, body.content, body.files);
}

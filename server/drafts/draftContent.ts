import type { getDrafts, getDraft, putDraft, deleteDraft } from "@amigo/contract/drafts";
import type { Context } from "../context";
import { orRefuse, refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { ownDraft } from "./sendDraft";
import { listOpenDrafts, storeDraft, removeDraft } from "./queries";
import { draftWithFiles } from "./draftWithFiles";

/** Returns one's own drafts and mails that wait for their time. */
export async function listDrafts(
  { db }: Context,
  { caller }: Request<typeof getDrafts>,
): Promise<Answer<typeof getDrafts>> {
  const rows = await listOpenDrafts(db, caller.id);
  return Promise.all(rows.map((row) => draftWithFiles(db, row)));
}

/** Returns one of one's own drafts. */
export async function showDraft(
  { db }: Context,
  { params, caller }: Request<typeof getDraft>,
): Promise<Answer<typeof getDraft>> {
  return draftWithFiles(db, orRefuse(await ownDraft(db, caller, params.id)));
}

/** Stores a draft as it is being written; its writer chooses the id. */
export async function saveDraft(
  { db }: Context,
  { params, body, caller }: Request<typeof putDraft>,
): Promise<Answer<typeof putDraft>> {
  const kept = await storeDraft(db, params.id, caller.id, body);
  if (kept === undefined) throw new Refusal(409, "draft/sent", t("drafts.thisMailWasSentAlready"));
  return draftWithFiles(db, kept);
}

/** Removes a draft. */
export async function deleteDraftAndFiles(
  { db }: Context,
  { params, caller }: Request<typeof deleteDraft>,
): Promise<Answer<typeof deleteDraft>> {
  refuse(await ownDraft(db, caller, params.id));
  await removeDraft(db, params.id);
  return { done: true as const };
}

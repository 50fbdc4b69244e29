import {
  type getDrafts,
  type getDraft,
  type putDraft,
  type deleteDraft,
} from "@amigo/contract/drafts";
import type { Context } from "../context";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { ownDraft } from "./sendDraft";
import { shown } from "./shown";
import { listOpenDrafts, storeDraft, removeDraft } from "./queries";

export async function listDrafts(
  { db }: Context,
  { caller }: Request<typeof getDrafts>,
): Promise<Answer<typeof getDrafts>> {
  const rows = await listOpenDrafts(db, caller.id);
  return Promise.all(rows.map((row) => shown(db, row)));
}

export async function showDraft(
  { db }: Context,
  { params, caller }: Request<typeof getDraft>,
): Promise<Answer<typeof getDraft>> {
  return shown(db, await ownDraft(db, caller, params.id));
}

export async function saveDraft(
  { db }: Context,
  { params, body, caller }: Request<typeof putDraft>,
): Promise<Answer<typeof putDraft>> {
  const kept = await storeDraft(db, params.id, caller.id, body);
  if (kept === undefined) throw new Refusal(409, "draft/sent", t("drafts.thisMailWasSentAlready"));
  return shown(db, kept);
}

export async function deleteDraftAndFiles(
  { db }: Context,
  { params, caller }: Request<typeof deleteDraft>,
): Promise<Answer<typeof deleteDraft>> {
  await ownDraft(db, caller, params.id);
  await removeDraft(db, params.id);
  return { done: true as const };
}

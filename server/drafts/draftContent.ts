import { and, eq, isNull, desc, sql } from "drizzle-orm";
import {
  type getDrafts,
  type getDraft,
  type putDraft,
  type deleteDraft,
} from "@amigo/contract/drafts";
import type { Context } from "../context";
import { draft } from "../db/schema/drafts";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { ownDraft } from "./sendDraft";
import { shown } from "./shown";

const MOST_DRAFTS = 200;

export async function listDrafts(
  { db }: Context,
  { caller }: Request<typeof getDrafts>,
): Promise<Answer<typeof getDrafts>> {
  const rows = await db
    .select()
    .from(draft)
    .where(and(eq(draft.accountId, caller.id), isNull(draft.postId)))
    .orderBy(desc(draft.changedAt))
    .limit(MOST_DRAFTS);
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
  const [kept] = await db
    .insert(draft)
    .values({ id: params.id, accountId: caller.id, content: body })
    .onConflictDoUpdate({
      target: draft.id,
      set: { content: body, changedAt: sql`now()`, fault: "" },
      setWhere: and(eq(draft.accountId, caller.id), isNull(draft.postId)),
    })
    .returning();
  if (kept === undefined) throw new Refusal(409, "draft/sent", t("drafts.thisMailWasSentAlready"));
  return shown(db, kept);
}

export async function deleteDraftAndFiles(
  { db }: Context,
  { params, caller }: Request<typeof deleteDraft>,
): Promise<Answer<typeof deleteDraft>> {
  await ownDraft(db, caller, params.id);
  await db.delete(draft).where(eq(draft.id, params.id));
  return { done: true as const };
}

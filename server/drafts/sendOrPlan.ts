import type { postSendDraft, postUnplan } from "@amigo/contract/drafts";
import type { Context } from "../context";
import { orRefuse, refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { reckonDraft } from "./reckonDraft";
import { ownDraft, sendTest, sendDraft } from "./sendDraft";
import { findSentPost, planDraft, unplanDraft, filesOf } from "./queries";
import { draftWithFiles } from "./draftWithFiles";

/** How far ahead a mail can be planned, in days. */
const FARTHEST = 400;

/** Sends a draft, now or at a time, or only to oneself as a test. */
export async function sendOrPlan(
  context: Context,
  { params, body, caller }: Request<typeof postSendDraft>,
): Promise<Answer<typeof postSendDraft>> {
  const { db } = context;
  const sent = await findSentPost(db, params.id, caller.id);
  if (sent?.postId != null)
    return { post: sent.postId, addresses: 0, outcome: "goes out" as const, leavesAt: null };
  const draft = orRefuse(await ownDraft(db, caller, params.id));
  if (body.how === "test") {
    await db.transaction(async (tx) => orRefuse(await sendTest(tx, caller, draft)));
    return { post: null, addresses: 1, outcome: "test" as const, leavesAt: null };
  }
  if (body.how === "now") return orRefuse(await sendDraft(context, caller, draft, body.asked));
  const at = new Date(body.at ?? "");
  if (
    Number.isNaN(at.getTime()) ||
    at.getTime() < Date.now() ||
    at.getTime() > Date.now() + FARTHEST * 86_400_000
  )
    throw new Refusal(422, "draft/time", t("drafts.chooseATimeThatIs"), "at");
  if (draft.content.subject.trim() === "")
    throw new Refusal(422, "draft/subject", t("drafts.giveItASubject"), "subject");
  const reckoned = orRefuse(
    await reckonDraft(db, caller, draft.content, (await filesOf(db, draft.id)).length),
  );
  if (reckoned.refused.length > 0)
    throw new Refusal(422, "draft/refused", reckoned.refused.join(" "), "to");
  const open = reckoned.asks.filter(({ id }) => !body.asked.includes(id));
  if (open.length > 0)
    throw new Refusal(
      409,
      "draft/ask",
      open.map(({ sentence }) => sentence).join(" "),
      open[0]?.id ?? "",
    );
  await planDraft(db, at, draft.id);
  return {
    post: null,
    addresses: reckoned.addresses,
    outcome: "waits" as const,
    leavesAt: at.toISOString(),
  };
}

/** Takes the time off a mail that waits for it; it is a draft again. */
export async function unplan(
  { db }: Context,
  { params, caller }: Request<typeof postUnplan>,
): Promise<Answer<typeof postUnplan>> {
  refuse(await ownDraft(db, caller, params.id));
  const row = await unplanDraft(db, params.id);
  if (row === undefined) throw new Refusal(409, "draft/sent", t("drafts.itHasGoneOutJust"));
  return draftWithFiles(db, row);
}

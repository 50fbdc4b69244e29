import type { postDecideRequest, postWithdrawRequest } from "@amigo/contract/requests";
import type { Context } from "../context";
import { notify } from "../events/events";
import { orRefuse, refuse, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { editorOf } from "../rounds/editRights";
import { t } from "../texts/t";
import { openRequest } from "./openRequest";
import { markWithdrawn } from "./queries";

/** Says yes, yes until a day, or no with a word. */
export async function decideOnRequest(
  { db, desk, settings }: Context,
  { params, body, caller }: Request<typeof postDecideRequest>,
): Promise<Answer<typeof postDecideRequest>> {
  refuse(await openRequest(db, params.id, caller));
  return orRefuse(
    await desk.run("decideRequest", {
      editor: editorOf(caller),
      id: params.id,
      yes: body.yes,
      until: body.yes ? body.until : "",
      word: body.word,
      url: settings.url,
    }),
  );
}

/** Takes one's own request back. */
export async function withdrawRequest(
  { db }: Context,
  { params, caller }: Request<typeof postWithdrawRequest>,
): Promise<Answer<typeof postWithdrawRequest>> {
  const rows = await markWithdrawn(db, caller.name, caller.id, params.id);
  const [taken] = rows;
  if (taken === undefined) throw notFound("request");
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "withdraw",
    sentence: () => t("requests.tookBackWhatTheyAsked", { name: caller.name, title: taken.title }),
  });
  await notify(db, "house", "board");
  return { done: true as const };
}

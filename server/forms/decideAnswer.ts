import type { postAnswerDecision } from "@amigo/contract/forms";
import type { Context } from "../context";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { decideAnswer } from "./takeAnswer";
import { formOfAnswer } from "./answerQueries";
import { loadVisibleForm } from "./loadVisibleForm";

/** Accepts or refuses an answer. */
export async function decideOnAnswer(
  { db, settings }: Context,
  { params, body, caller }: Request<typeof postAnswerDecision>,
): Promise<Answer<typeof postAnswerDecision>> {
  const form = orRefuse(
    await loadVisibleForm(db, (await formOfAnswer(db, params.id)) ?? params.id, caller),
  );
  const state = await decideAnswer(
    db,
    form,
    settings.url,
    params.id,
    { id: caller.id, name: caller.name },
    body.take,
  );
  if (state === undefined)
    throw new Refusal(409, "form/decided", t("forms.somebodyHasDecidedOnThis"));
  return { state };
}

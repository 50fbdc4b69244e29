import type { putForm } from "@amigo/contract/forms";
import { wordsIn } from "@amigo/core/forms/form";
import type { Context } from "../context";
import { isTaken } from "../db/isTaken";
import { notify } from "../events/events";
import { orRefuse, refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { checkCohorts } from "./checkCohorts";
import { changeFormContent, renameSource } from "./queries";
import { loadVisibleForm } from "./loadVisibleForm";

/** Changes a sign-up form. */
export async function changeForm(
  { db }: Context,
  { params, body, caller }: Request<typeof putForm>,
): Promise<Answer<typeof putForm>> {
  const before = orRefuse(await loadVisibleForm(db, params.id, caller));
  refuse(await checkCohorts(db, caller, body.content));
  const title = wordsIn(body.content, "").title;
  return db.transaction(async (tx) => {
    const [item] = await changeFormContent(
      tx,
      body.slug,
      body.content,
      body.version,
      before.consents,
      before.id,
    ).catch((failure: unknown) => {
      throw isTaken(failure)
        ? new Refusal(
            409,
            "form/slug-taken",
            t("forms.anotherFormHasTheAddress", { slug: body.slug }),
            "slug",
          )
        : failure;
    });
    if (item === undefined)
      throw new Refusal(409, "form/changed", t("forms.somebodyElseHasChangedThis"));
    await renameSource(tx, title, caller, body.mode, before.mode, before.source).catch(
      (failure: unknown) => {
        throw isTaken(failure)
          ? new Refusal(
              409,
              "form/title-taken",
              t("forms.thereIsASourceCalled", { title }),
              "title",
            )
          : failure;
      },
    );
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change form",
      sentence: () => t("forms.changedTheSignUpForm", { name: caller.name, title }),
      before: { slug: before.slug, content: before.content, mode: before.mode },
      after: { slug: body.slug, content: body.content, mode: body.mode },
    });
    await notify(tx, "forms", "sources");
    return { version: item.version };
  });
}

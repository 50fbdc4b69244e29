import type { postForm } from "@amigo/contract/forms";
import { wordsIn } from "@amigo/core/forms/form";
import type { Context } from "../context";
import { notify } from "../events/events";
import { refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { checkCohorts } from "./checkCohorts";
import { storeFormSource, storeForm } from "./queries";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** Makes a sign-up form. */
export async function makeForm(
  { db }: Context,
  { body, caller }: Request<typeof postForm>,
): Promise<Answer<typeof postForm>> {
  refuse(await checkCohorts(db, caller, body.content));
  const current = await needCurrentSeason(db);
  const title = wordsIn(body.content, "").title;
  return db.transaction(async (tx) => {
    const made = await storeFormSource(tx, title, current.id, caller, body.mode);
    if (made === undefined)
      throw new Refusal(
        409,
        "form/title-taken",
        t("forms.thereIsASourceCalled", { title }),
        "title",
      );
    const form = await storeForm(tx, made.id, body.slug, body.content, caller.id);
    if (form === undefined)
      throw new Refusal(
        409,
        "form/slug-taken",
        t("forms.anotherFormHasTheAddress", { slug: body.slug }),
        "slug",
      );
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "make form",
      sentence: () => t("forms.madeTheSignUpForm", { name: caller.name, title }),
      after: { form: form.id },
    });
    await notify(tx, "forms", "sources");
    return { id: form.id };
  });
}

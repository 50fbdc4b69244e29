import { and, eq } from "drizzle-orm";
import { type putForm } from "@amigo/contract/forms";
import { wordsIn } from "@amigo/core/forms/form";
import type { Context } from "../context";
import { isTaken } from "../db/isTaken";
import { form } from "../db/schema/forms";
import { source } from "../db/schema/sources";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../journal/record";
import { t } from "../texts/t";
import { checkCohorts } from "./checkCohorts";
import { modeFor } from "./modeFor";
import { nextConsents } from "./nextConsents";
import { seen } from "./seen";

export async function changeForm(
  { db }: Context,
  { params, body, caller }: Request<typeof putForm>,
): Promise<Answer<typeof putForm>> {
  const before = await seen(db, params.id, caller);
  await checkCohorts(db, caller, body.content);
  const title = wordsIn(body.content, "").title;
  return db.transaction(async (tx) => {
    const [own] = await tx
      .update(form)
      .set({
        slug: body.slug,
        content: body.content,
        consents: nextConsents(before.consents, body.content),
        version: body.version + 1,
      })
      .where(and(eq(form.id, before.id), eq(form.version, body.version)))
      .returning({ version: form.version })
      .catch((failure: unknown) => {
        throw isTaken(failure)
          ? new Refusal(
              409,
              "form/slug-taken",
              t("forms.anotherFormHasTheAddress", { slug: body.slug }),
              "slug",
            )
          : failure;
      });
    if (own === undefined)
      throw new Refusal(409, "form/changed", t("forms.somebodyElseHasChangedThis"));
    await tx
      .update(source)
      .set({ name: title, mode: modeFor(caller, body.mode, before.mode) })
      .where(eq(source.id, before.source))
      .catch((failure: unknown) => {
        throw isTaken(failure)
          ? new Refusal(
              409,
              "form/title-taken",
              t("forms.thereIsASourceCalled", { title }),
              "title",
            )
          : failure;
      });
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change form",
      sentence: t("forms.changedTheSignUpForm", { name: caller.name, title }),
      before: { slug: before.slug, content: before.content, mode: before.mode },
      after: { slug: body.slug, content: body.content, mode: body.mode },
    });
    await notify(tx, "forms", "sources");
    return { version: own.version };
  });
}

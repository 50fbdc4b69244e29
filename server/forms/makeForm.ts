import { eq } from "drizzle-orm";
import { type postForm } from "@amigo/contract/forms";
import { wordsIn } from "@amigo/core/forms/form";
import type { Context } from "../context";
import { form } from "../db/schema/forms";
import { season } from "../db/schema/house";
import { source } from "../db/schema/sources";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../journal/record";
import { t } from "../texts/t";
import { checkCohorts } from "./checkCohorts";
import { modeFor } from "./modeFor";
import { nextConsents } from "./nextConsents";

export async function makeForm(
  { db }: Context,
  { body, caller }: Request<typeof postForm>,
): Promise<Answer<typeof postForm>> {
  await checkCohorts(db, caller, body.content);
  const [current] = await db.select({ id: season.id }).from(season).where(eq(season.current, true));
  if (current === undefined)
    throw new Refusal(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
  const title = wordsIn(body.content, "").title;
  return db.transaction(async (tx) => {
    const [made] = await tx
      .insert(source)
      .values({
        name: title,
        kind: "form",
        whole: false,
        seasonId: current.id,
        mode: modeFor(caller, body.mode, "ask"),
      })
      .onConflictDoNothing()
      .returning({ id: source.id });
    if (made === undefined)
      throw new Refusal(
        409,
        "form/title-taken",
        t("forms.thereIsASourceCalled", { title }),
        "title",
      );
    const [own] = await tx
      .insert(form)
      .values({
        sourceId: made.id,
        slug: body.slug,
        content: body.content,
        consents: nextConsents([], body.content),
        accountId: caller.id,
      })
      .onConflictDoNothing()
      .returning({ id: form.id });
    if (own === undefined)
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
      sentence: t("forms.madeTheSignUpForm", { name: caller.name, title }),
      after: { form: own.id },
    });
    await notify(tx, "forms", "sources");
    return { id: own.id };
  });
}

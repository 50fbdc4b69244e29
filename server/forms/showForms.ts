import { and, eq } from "drizzle-orm";
import type { getForms, getForm } from "@amigo/contract/forms";
import { callerMay } from "../callers/caller";
import type { Context } from "../context";
import { season } from "../db/schema/house";
import { orRefuse, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { formLines, loadForms, formsOf, cohortsFor, consentOf } from "./queries";
import { loadVisibleForm } from "./loadVisibleForm";
import { noticeLine } from "./noticeLine";

/** Returns the sign-up forms of the current season that the asker sees. */
export async function listForms(
  { db, settings }: Context,
  { caller }: Request<typeof getForms>,
): Promise<Answer<typeof getForms>> {
  return {
    forms: await formLines(
      db,
      await loadForms(db, and(formsOf(caller), eq(season.current, true))),
      settings.url,
    ),
    choices: await cohortsFor(db, caller),
  };
}

/** Returns one sign-up form. */
export async function showForm(
  { db, settings }: Context,
  { params, caller }: Request<typeof getForm>,
): Promise<Answer<typeof getForm>> {
  const form = orRefuse(await loadVisibleForm(db, params.id, caller));
  const [line] = await formLines(db, [form], settings.url);
  if (line === undefined) throw notFound("form");
  return {
    ...line,
    slug: form.slug,
    version: form.version,
    content: form.content,
    mode: form.mode,
    consent: consentOf(form),
    choices: await cohortsFor(db, caller),
    noticeLines: Object.fromEntries(
      form.content.words.map(({ language }) => [language, noticeLine(language)]),
    ),
    mayStep: callerMay(caller, "decide a round"),
  };
}

import { html } from "hono/html";
import type { Answer } from "@amigo/core/forms/readAnswer";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import type { FileRequest } from "../http/handler";
import { t } from "../texts/t";
import { publicPage, missingFormPage } from "./publicPage";
import { type LoadedForm, findForm } from "./queries";
import { confirmSecond } from "./takeAnswer";
import { findAnswered } from "./answerQueries";
import { linkBehind, takeLink } from "../posting/linkQueries";
import { familyLanguage } from "@amigo/language/families";
import { speechHere } from "@amigo/language/texts";
import { keepLanguage, speakTo } from "../texts/familyLanguage";

async function secondOf(
  db: Database,
  answerId: string,
): Promise<{ form: LoadedForm; answer: Answer } | undefined> {
  const row = await findAnswered(db, answerId);
  const form = row === undefined ? undefined : await findForm(db, row.formId);
  return row === undefined || form === undefined ? undefined : { form, answer: row.answer };
}

/** Shows a second guardian who has named them, and asks whether the address is theirs. */
export async function showSecondGuardian(
  { db }: Context,
  http: FileRequest<"/f/second/:token">,
): Promise<Response> {
  const link = await linkBehind(db, http.req.param("token"), "second guardian");
  const found = link === undefined ? undefined : await secondOf(db, link.about);
  if (link === undefined || found === undefined) return missingFormPage(http);
  await speakTo(db, link.address);
  return publicPage(
    http,
    found.form,
    speechHere(),
    t("forms.mailFor", { given: found.answer.given, family: found.answer.family }),
    html`<p>
        ${t("forms.hasNamedYouAsA", { name: found.answer.name, house: found.form.house, address: link.address })}
      </p>
      <form method="post"><button>${t("forms.yesWriteToMeAs")}</button></form>
      <p>${t("forms.ifNotThereIsNothing")}</p>`,
  );
}

/** Stores that the address of a second guardian is theirs. */
export async function confirmSecondGuardian(
  { db }: Context,
  http: FileRequest<"/f/second/:token">,
): Promise<Response> {
  const link = await takeLink(db, http.req.param("token"), "second guardian");
  const found = link === undefined ? undefined : await secondOf(db, link.about);
  if (link === undefined || found === undefined) return missingFormPage(http);
  await speakTo(db, link.address);
  await confirmSecond(db, link.about, link.address);
  await keepLanguage(db, link.address, familyLanguage(speechHere().language) ?? "en", "browser");
  return publicPage(
    http,
    found.form,
    speechHere(),
    t("shared.thankYou"),
    html`<p>${t("forms.isWithTheOfficeNow", { address: link.address })}</p>`,
  );
}

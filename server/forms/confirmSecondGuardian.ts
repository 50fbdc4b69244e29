import { eq } from "drizzle-orm";
import { html } from "hono/html";
import type { Answer } from "@amigo/core/forms/readAnswer";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { form } from "../db/schema/forms";
import type { FileRequest } from "../http/handler";
import { t } from "../texts/t";
import { gone, page } from "./publicPage";
import { type LoadedForm, loadForms } from "./queries";
import { confirmSecond } from "./takeAnswer";
import { findAnswered } from "./answerQueries";
import { linkBehind, takeLink } from "../posting/linkQueries";

async function secondOf(
  db: Database,
  answerId: string,
): Promise<{ own: LoadedForm; answer: Answer } | undefined> {
  const row = await findAnswered(db, answerId);
  const [eachForm] = row === undefined ? [] : await loadForms(db, eq(form.id, row.formId));
  return row === undefined || eachForm === undefined
    ? undefined
    : { own: eachForm, answer: row.answer };
}

export async function showSecondGuardian(
  { db }: Context,
  http: FileRequest<"/f/second/:token">,
): Promise<Response> {
  const link = await linkBehind(db, http.req.param("token"), "second guardian");
  const found = link === undefined ? undefined : await secondOf(db, link.about);
  if (link === undefined || found === undefined) return gone(http);
  return page(
    http,
    found.own,
    { language: "en" },
    t("forms.mailFor", { given: found.answer.given, family: found.answer.family }),
    html`<p>
        ${t("forms.hasNamedYouAsA", { name: found.answer.name, house: found.own.house, address: link.address })}
      </p>
      <form method="post"><button>${t("forms.yesWriteToMeAs")}</button></form>
      <p>${t("forms.ifNotThereIsNothing")}</p>`,
  );
}

export async function confirmSecondGuardian(
  { db }: Context,
  http: FileRequest<"/f/second/:token">,
): Promise<Response> {
  const link = await takeLink(db, http.req.param("token"), "second guardian");
  const found = link === undefined ? undefined : await secondOf(db, link.about);
  if (link === undefined || found === undefined) return gone(http);
  await confirmSecond(db, link.about, link.address);
  return page(
    http,
    found.own,
    { language: "en" },
    t("shared.thankYou"),
    html`<p>${t("forms.isWithTheOfficeNow", { address: link.address })}</p>`,
  );
}

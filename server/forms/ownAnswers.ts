import { eq } from "drizzle-orm";
import { html } from "hono/html";
import { labelOf } from "@amigo/core/forms/form";
import { say } from "@amigo/language/say";
import type { Context } from "../context";
import { form } from "../db/schema/forms";
import type { FileRequest } from "../http/handler";
import { minePage } from "./minePage";
import { gone, page, wordsFor } from "./publicPage";
import { loadForms } from "./queries";
import { confirmAnswers } from "./takeAnswer";
import { answersOf } from "./answerQueries";
import { linkBehind } from "../posting/linkQueries";

export async function showOwnAnswers(
  { db }: Context,
  http: FileRequest<"/f/mine/:token">,
): Promise<Response> {
  const token = http.req.param("token");
  const link = await linkBehind(db, token, "sign-up");
  const [eachForm] = link === undefined ? [] : await loadForms(db, eq(form.id, link.about));
  if (link === undefined || eachForm === undefined) return gone(http);
  return page(
    http,
    eachForm,
    wordsFor(http, eachForm),
    wordsFor(http, eachForm).title,
    minePage(eachForm, token, link.address, await answersOf(db, eachForm.id, link.address)),
  );
}

export async function confirmOwnAnswers(
  { db, settings }: Context,
  http: FileRequest<"/f/mine/:token">,
): Promise<Response> {
  const token = http.req.param("token");
  const link = await linkBehind(db, token, "sign-up");
  const [eachForm] = link === undefined ? [] : await loadForms(db, eq(form.id, link.about));
  if (link === undefined || eachForm === undefined) return gone(http);
  await confirmAnswers(db, eachForm, settings.url, { address: link.address });
  const words = wordsFor(http, eachForm);
  return page(
    http,
    eachForm,
    words,
    say(labelOf(words, "thanks")),
    html`<p>${say(labelOf(words, "thanksMore"))}</p>
      ${minePage(eachForm, token, link.address, await answersOf(db, eachForm.id, link.address))}`,
  );
}

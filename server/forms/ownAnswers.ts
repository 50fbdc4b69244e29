import { html } from "hono/html";
import { labelOf } from "@amigo/core/forms/form";
import { say } from "@amigo/language/say";
import type { Context } from "../context";
import type { FileRequest } from "../http/handler";
import { minePage } from "./minePage";
import { wordsFor, publicPage, missingFormPage } from "./publicPage";
import { confirmAnswers } from "./takeAnswer";
import { answersOf } from "./answerQueries";
import { linkBehind } from "../posting/linkQueries";
import { findForm } from "./queries";

/** Shows a family its own answers, behind its mailed link. */
export async function showOwnAnswers(
  { db }: Context,
  http: FileRequest<"/f/mine/:token">,
): Promise<Response> {
  const token = http.req.param("token");
  const link = await linkBehind(db, token, "sign-up");
  const form = link === undefined ? undefined : await findForm(db, link.about);
  if (link === undefined || form === undefined) return missingFormPage(http);
  return publicPage(
    http,
    form,
    wordsFor(http, form),
    wordsFor(http, form).title,
    minePage(form, token, link.address, await answersOf(db, form.id, link.address)),
  );
}

/** Confirms a family's answers by its mailed link. */
export async function confirmOwnAnswers(
  { db, settings }: Context,
  http: FileRequest<"/f/mine/:token">,
): Promise<Response> {
  const token = http.req.param("token");
  const link = await linkBehind(db, token, "sign-up");
  const form = link === undefined ? undefined : await findForm(db, link.about);
  if (link === undefined || form === undefined) return missingFormPage(http);
  await confirmAnswers(db, form, settings.url, { address: link.address });
  const words = wordsFor(http, form);
  return publicPage(
    http,
    form,
    words,
    say(labelOf(words, "thanks")),
    html`<p>${say(labelOf(words, "thanksMore"))}</p>
      ${minePage(form, token, link.address, await answersOf(db, form.id, link.address))}`,
  );
}

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
  const [own] = link === undefined ? [] : await loadForms(db, eq(form.id, link.about));
  if (link === undefined || own === undefined) return gone(http);
  return page(
    http,
    own,
    wordsFor(http, own),
    wordsFor(http, own).title,
    minePage(own, token, link.address, await answersOf(db, own.id, link.address)),
  );
}

export async function confirmOwnAnswers(
  { db, settings }: Context,
  http: FileRequest<"/f/mine/:token">,
): Promise<Response> {
  const token = http.req.param("token");
  const link = await linkBehind(db, token, "sign-up");
  const [own] = link === undefined ? [] : await loadForms(db, eq(form.id, link.about));
  if (link === undefined || own === undefined) return gone(http);
  await confirmAnswers(db, own, settings.url, { address: link.address });
  const words = wordsFor(http, own);
  return page(
    http,
    own,
    words,
    say(labelOf(words, "thanks")),
    html`<p>${say(labelOf(words, "thanksMore"))}</p>
      ${minePage(own, token, link.address, await answersOf(db, own.id, link.address))}`,
  );
}

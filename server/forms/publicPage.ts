import type { Context as HonoContext } from "hono";
import { html } from "hono/html";
import { type FormWords, wordsIn, languageFor } from "@amigo/core/forms/form";
import { t } from "../texts/t";
import { familyLanguage } from "@amigo/language/families";
import { speechHere } from "@amigo/language/texts";
import { goOnIn } from "../texts/inLanguage";
import { familyPage } from "./formPage";
import type { LoadedForm } from "./queries";

export const CLOSED_WORDS = {
  "not yet": "forms.thisFormOpensLater",
  over: "forms.thisFormIsClosed",
} as const;

/** Returns a form's words in the language that is asked for, else the best for the browser, and goes on in that language. */
export const wordsFor = (http: HonoContext, form: LoadedForm, language = ""): FormWords => {
  const words = wordsIn(
    form.content,
    language ||
      http.req.query("language") ||
      languageFor(form.content, http.req.header("Accept-Language") ?? ""),
  );
  goOnIn(familyLanguage(words.language) ?? "en");
  return words;
};

export const publicPage = (
  http: HonoContext,
  form: { house: string },
  words: Pick<FormWords, "language">,
  title: string,
  body: unknown,
  status: 200 | 404 | 422 | 429 = 200,
) => {
  http.header("Cache-Control", "no-store");
  http.header("Content-Language", words.language);
  return http.html(familyPage(title, words.language, form.house, body), status);
};

export const missingFormPage = (http: HonoContext) =>
  publicPage(
    http,
    { house: "" },
    speechHere(),
    t("forms.thisAddressLeadsNowhere"),
    html`<p>${t("forms.theFormMayBeOver")}</p>`,
    404,
  );

export const languagesOf = (form: LoadedForm, more: string) =>
  form.content.words.map(({ language }) => ({
    code: language,
    url: `/f/${form.slug}?language=${encodeURIComponent(language)}${more}`,
  }));

import type { Context as HonoContext } from "hono";
import { html } from "hono/html";
import { type FormWords, wordsForReader } from "@amigo/core/forms/form";
import { t } from "../texts/t";
import { FAMILY_LANGUAGES, familyLanguage } from "@amigo/language/families";
import { speechHere } from "@amigo/language/texts";
import { goOnIn } from "../texts/inLanguage";
import { familyPage } from "./formPage";
import type { LoadedForm } from "./queries";

export const CLOSED_WORDS = {
  "not yet": "forms.thisFormOpensLater",
  over: "forms.thisFormIsClosed",
} as const;

/** Returns a form's words in the language that is asked for, else in the browser's, and goes on in it. */
export const wordsFor = (http: HonoContext, form: LoadedForm, language = ""): FormWords => {
  const asked = language || http.req.query("language") || "";
  const words = wordsForReader(form.content, asked, http.req.header("Accept-Language") ?? "");
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

/** Returns the languages that a form's page can be read in: its own first, then all of families, each with its address. */
export const languagesOf = (form: LoadedForm, more: string) => {
  const ours = form.content.words.map(({ language }) => language);
  const others = FAMILY_LANGUAGES.filter(
    (language) => !ours.some((one) => familyLanguage(one) === language),
  );
  return [...ours, ...others].map((language) => ({
    code: language,
    url: `/f/${form.slug}?language=${encodeURIComponent(language)}${more}`,
  }));
};

import type { Context as HonoContext } from "hono";
import { html } from "hono/html";
import { labelOf, type FormWords } from "@amigo/core/forms/form";
import {
  readAnswer,
  type Answer,
  type AnswerFault,
  type FormChoices,
} from "@amigo/core/forms/readAnswer";
import { say } from "@amigo/language/say";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { FileRequest } from "../http/handler";
import { isWithinTries } from "../http/limitTries";
import { readForm } from "../http/readForm";
import { findCaller } from "../http/route";
import { t } from "../texts/t";
import { formAtHand } from "./formAtHand";
import type { Filled } from "./formControls";
import { formFields } from "./formPage";
import { minePage } from "./minePage";
import { openFor, provenOpening } from "./opened";
import { CLOSED_WORDS, wordsFor, languagesOf, publicPage, missingFormPage } from "./publicPage";
import { consentOf, isOpen, type LoadedForm } from "./queries";
import { takeAnswer } from "./takeAnswer";
import { withinRate } from "./withinRate";
import { answersOf, isThere } from "./answerQueries";
import { linkBehind } from "../posting/linkQueries";

/** Nobody fills a form in within less, in milliseconds. */
const QUICKEST = 1500;

/** A form as it was sent: what was written, and by whom as far as that is proven. */
interface SentForm {
  http: HonoContext;
  form: LoadedForm;
  words: FormWords;
  choices: FormChoices;
  /** The fields as they came. */
  sent: Record<string, string>;
  /** The fields with what their writer has agreed was meant. */
  fields: Record<string, string>;
  /** The address whose mailed link has opened the form; undefined where none has. */
  owner: string | undefined;
  caller: Caller | undefined;
}

/** Takes what a family sends by a form's page: stores the answer, or shows the page again with what is wrong. */
export async function takePublicAnswer(
  context: Context,
  http: FileRequest<"/f/:slug">,
): Promise<Response> {
  const { form, choices, known } = await formAtHand(context, http.req.param("slug"));
  if (form === undefined) return missingFormPage(http);
  const sent: Record<string, string> = Object.fromEntries(
    Object.entries(await readForm(http)).map(([name, value]) => [name, value.slice(0, 4000)]),
  );
  const words = wordsFor(http, form, sent.language);
  const is = isOpen(form);
  if (is !== "open")
    return publicPage(http, form, words, words.title, html`<p><b>${t(CLOSED_WORDS[is])}.</b></p>`);
  if (!(await withinRate(context, http)))
    return publicPage(
      http,
      form,
      words,
      words.title,
      html`<p>${t("forms.muchWasSentFromHere")}</p>`,
      429,
    );
  const link =
    (sent.mine ?? "") === "" ? undefined : await linkBehind(context.db, sent.mine ?? "", "sign-up");
  const owner = link?.about === form.id ? link.address : undefined;
  const caller = owner === undefined ? await findCaller(http, context) : undefined;
  const sentForm = {
    http,
    form,
    words,
    choices,
    sent,
    fields: withTaken(sent),
    owner,
    caller,
  };
  const read = readAnswer(sentForm.fields, form.content, words, choices, consentOf(form), known);
  return read.ok ? takeRead(context, sentForm, read.answer) : faultPage(sentForm, read.faults);
}

/** Stores an answer in which nothing is wrong, and thanks for it. */
async function takeRead(context: Context, sentForm: SentForm, answer: Answer): Promise<Response> {
  const { http, form, words, fields, owner, caller } = sentForm;
  const isConfirmed =
    owner === undefined
      ? caller?.email === answer.address && isFromOurPage(http)
      : owner === answer.address;
  // A robot is thanked like anybody else and nothing is stored.
  if ((fields.website ?? "") === "") {
    const opening = await openingToShowAgain(context, sentForm, answer);
    if (opening !== undefined) return lookOverPage(sentForm, opening, isConfirmed);
    await takeAnswer(context.db, form, context.settings.url, {
      answer,
      language: words.language,
      changes:
        owner !== undefined && /^[0-9a-f-]{36}$/.test(fields.changes ?? "")
          ? fields.changes
          : undefined,
      confirmed: isConfirmed,
      code: (fields.code ?? "").trim().toUpperCase().slice(0, 20),
    });
  }
  return thanksPage(context, sentForm, answer, isConfirmed);
}

/**
 * Returns the proof of opening with which a form is shown once more, or undefined where its answer can be taken. Nobody fills a
 * form in so quickly, but a browser can: what was written stays on the page, to be sent again. One proof serves for one
 * answer; the same answer sent twice is thanked twice and stored once.
 */
async function openingToShowAgain(
  { db, houseKey }: Context,
  { form, sent, fields, owner }: SentForm,
  answer: Answer,
): Promise<string | undefined> {
  if (owner !== undefined) return undefined;
  const wasOpen = openFor(houseKey, fields.begun ?? "", Date.now());
  const isSpent =
    wasOpen >= QUICKEST &&
    !(await isWithinTries(db, `form proof ${fields.begun ?? ""}`, 1, 24 * 60)) &&
    !(await isThere(db, form.id, answer));
  if (wasOpen >= QUICKEST && !isSpent) return undefined;
  return wasOpen === 0 || isSpent ? provenOpening(houseKey, Date.now()) : (sent.begun ?? "");
}

/** Shows the form again with what is wrong in it. */
function faultPage(
  sentForm: SentForm,
  faults: readonly AnswerFault[],
): Response | Promise<Response> {
  const { sent, fields, owner, caller } = sentForm;
  const isMine = owner !== undefined;
  return formAgain(sentForm, {
    faults,
    begun: sent.begun ?? "",
    mine: isMine ? (sent.mine ?? "") : "",
    changes: isMine ? (sent.changes ?? "") : "",
    known:
      caller !== undefined &&
      fields.address === caller.email &&
      faultless(faults, "name", "address"),
  });
}

/** Shows the form again, to be looked over and sent once more. */
function lookOverPage(
  sentForm: SentForm,
  begun: string,
  known: boolean,
): Response | Promise<Response> {
  return formAgain(sentForm, { faults: [], lookOver: true, begun, mine: "", changes: "", known });
}

function formAgain(
  { http, form, words, choices, fields }: SentForm,
  filled: Omit<Filled, "fields" | "action">,
): Response | Promise<Response> {
  return publicPage(
    http,
    form,
    words,
    words.title,
    formFields(
      form.content,
      words,
      choices,
      { ...filled, fields, action: `/f/${form.slug}` },
      languagesOf(form, ""),
    ),
    422,
  );
}

/** Thanks for an answer: with what the family has sent so far, or with the way to confirm it. */
async function thanksPage(
  { db }: Context,
  { http, form, words, sent, owner }: SentForm,
  answer: Answer,
  isConfirmed: boolean,
): Promise<Response> {
  if (!isConfirmed)
    return publicPage(
      http,
      form,
      words,
      say(labelOf(words, "sent")),
      html`<p>${say(labelOf(words, "sentMore", { address: answer.address }))}</p>`,
    );
  const mine =
    owner === undefined
      ? ""
      : minePage(form, sent.mine ?? "", owner, await answersOf(db, form.id, owner));
  return publicPage(
    http,
    form,
    words,
    say(labelOf(words, "thanks")),
    html`<p>${say(labelOf(words, "thanksMore"))}</p>
      ${mine}`,
  );
}

/** Takes what was probably meant where its writer has agreed to it, without having written another one since. */
function withTaken(fields: Record<string, string>): Record<string, string> {
  const taken = { ...fields };
  for (const field of ["address", "secondAddress"]) {
    const meant = fields[`take.${field}`];
    const keeps = fields[`keep.${field}`] !== undefined;
    if (meant !== undefined && !keeps && (fields[field] ?? "").trim() === fields[`was.${field}`])
      taken[field] = meant;
  }
  return taken;
}

function faultless(faults: readonly AnswerFault[], ...fields: string[]): boolean {
  return !faults.some(({ field }) => fields.includes(field));
}

/** Whether a form was sent from our own page: the session's word counts only then. */
function isFromOurPage(http: HonoContext): boolean {
  const origin = http.req.header("Origin");
  return (
    origin !== undefined && URL.canParse(origin) && new URL(origin).host === http.req.header("Host")
  );
}

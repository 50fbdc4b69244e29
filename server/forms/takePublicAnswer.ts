import type { Context as HonoContext } from "hono";
import { html } from "hono/html";
import { labelOf } from "@amigo/core/forms/form";
import { readAnswer, type AnswerFault } from "@amigo/core/forms/readAnswer";
import { say } from "@amigo/language/say";
import type { Context } from "../context";
import type { FileRequest } from "../http/handler";
import { isWithinTries } from "../http/limitTries";
import { readForm } from "../http/readForm";
import { findCaller } from "../http/route";
import { t } from "../texts/t";
import { formAtHand } from "./formAtHand";
import { formFields } from "./formPage";
import { minePage } from "./minePage";
import { openFor, provenOpening } from "./opened";
import { CLOSED_WORDS, wordsFor, page, gone, languagesOf } from "./publicPage";
import { isOpen, consentOf } from "./queries";
import { takeAnswer } from "./takeAnswer";
import { withinRate } from "./withinRate";
import { answersOf, isThere } from "./answerQueries";
import { linkBehind } from "../posting/linkQueries";

/** Nobody fills a form in within less, in milliseconds. */
const QUICKEST = 1500;

export async function takePublicAnswer(
  context: Context,
  http: FileRequest<"/f/:slug">,
): Promise<Response> {
  const { db, settings } = context;
  const { own, choices, known } = await formAtHand(context, http.req.param("slug"));
  if (own === undefined) return gone(http);
  const sent: Record<string, string> = Object.fromEntries(
    Object.entries(await readForm(http)).map(([name, value]) => [name, value.slice(0, 4000)]),
  );
  const words = wordsFor(http, own, sent.language);
  const is = isOpen(own);
  if (is !== "open")
    return page(http, own, words, words.title, html`<p><b>${t(CLOSED_WORDS[is])}.</b></p>`);
  if (!(await withinRate(context, http)))
    return page(http, own, words, words.title, html`<p>${t("forms.muchWasSentFromHere")}</p>`, 429);
  const link =
    (sent.mine ?? "") === "" ? undefined : await linkBehind(db, sent.mine ?? "", "sign-up");
  const isMine = link !== undefined && link.about === own.id;
  const fields = withTaken(sent);
  const caller = isMine ? undefined : await findCaller(http, context);
  const read = readAnswer(fields, own.content, words, choices, consentOf(own), known);
  if (!read.ok)
    return page(
      http,
      own,
      words,
      words.title,
      formFields(
        own.content,
        words,
        choices,
        {
          fields,
          faults: read.faults,
          action: `/f/${own.slug}`,
          begun: sent.begun ?? "",
          mine: isMine ? (sent.mine ?? "") : "",
          changes: isMine ? (sent.changes ?? "") : "",
          known:
            caller !== undefined &&
            fields.address === caller.email &&
            faultless(read.faults, "name", "address"),
        },
        languagesOf(own, ""),
      ),
      422,
    );
  const { answer } = read;
  const confirmed = isMine
    ? link.address === answer.address
    : caller?.email === answer.address && ownOrigin(http);
  const isRobot = (fields.website ?? "") !== "";
  const wasOpen = isMine ? QUICKEST : openFor(context.dkim.pem, fields.begun ?? "", Date.now());
  // One look at the form serves for one answer; the very same answer pressed twice is thanked twice and there once.
  const isSpent =
    !isMine &&
    !isRobot &&
    wasOpen >= QUICKEST &&
    !(await isWithinTries(db, `form proof ${fields.begun ?? ""}`, 1, 24 * 60)) &&
    !(await isThere(db, own.id, answer));
  // Nobody fills a form in so quickly, but a browser can: what was written stands there still, to be sent once more.
  if (!isRobot && (wasOpen < QUICKEST || isSpent))
    return page(
      http,
      own,
      words,
      words.title,
      formFields(
        own.content,
        words,
        choices,
        {
          fields,
          faults: [],
          lookOver: true,
          action: `/f/${own.slug}`,
          begun:
            wasOpen === 0 || isSpent
              ? provenOpening(context.dkim.pem, Date.now())
              : (sent.begun ?? ""),
          mine: "",
          changes: "",
          known: confirmed === true,
        },
        languagesOf(own, ""),
      ),
      422,
    );
  // A robot is thanked like anybody else and nothing is kept.
  if (!isRobot)
    await takeAnswer(db, own, settings.url, {
      answer,
      language: words.language,
      changes: isMine && /^[0-9a-f-]{36}$/.test(fields.changes ?? "") ? fields.changes : undefined,
      confirmed: confirmed === true,
      code: (fields.code ?? "").trim().toUpperCase().slice(0, 20),
    });
  if (confirmed === true && isMine)
    return page(
      http,
      own,
      words,
      say(labelOf(words, "thanks")),
      html`<p>${say(labelOf(words, "thanksMore"))}</p>
        ${minePage(own, sent.mine ?? "", link.address, await answersOf(db, own.id, link.address))}`,
    );
  if (confirmed === true)
    return page(
      http,
      own,
      words,
      say(labelOf(words, "thanks")),
      html`<p>${say(labelOf(words, "thanksMore"))}</p>`,
    );
  return page(
    http,
    own,
    words,
    say(labelOf(words, "sent")),
    html`<p>${say(labelOf(words, "sentMore", { address: answer.address }))}</p>`,
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
function ownOrigin(http: HonoContext): boolean {
  const origin = http.req.header("Origin");
  return (
    origin !== undefined && URL.canParse(origin) && new URL(origin).host === http.req.header("Host")
  );
}

import { eq, sql } from "drizzle-orm";
import type { Context as HonoContext, Hono } from "hono";
import { html } from "hono/html";
import { say } from "@amigo/language/say";
import type { KnownDomains } from "@amigo/core/address/learnDomains";
import { faultForOutsiders } from "@amigo/core/address/faultSentence";
import { readAddress } from "@amigo/core/address/readAddress";
import { labelOf, languageFor, wordsIn, type FormWords } from "@amigo/core/forms/form";
import {
  readAnswer,
  type Answer,
  type AnswerFault,
  type FormChoices,
} from "@amigo/core/forms/readAnswer";
import type { Context } from "../context";
import { isWithinTries } from "../http/limitTries";
import { readForm } from "../http/readForm";
import { findCaller } from "../http/route";
import { networkAddress } from "../http/networkAddress";
import { linkBehind, takeLink } from "../posting/mailLink";
import { openFor, provenOpening } from "./opened";
import { familyPage, formFields } from "./formPage";
import { knownDomains } from "../membership/knownDomains";
import { choicesOf, consentOf, isOpen, loadForms, type LoadedForm } from "./queries";
import { answersOf, confirmAnswers, confirmSecond, takeAnswer } from "./takeAnswer";
import { t, type TextId } from "../texts/t";
import { form, type AnswerState, formAnswer } from "../db/schema/forms";

/** Nobody fills a form in within less, in milliseconds. */
const QUICKEST = 1500;
/** How long what stands around a form is good for, in milliseconds. */
const REMEMBERED = 3000;

interface AtHand {
  at: number;
  own: LoadedForm | undefined;
  choices: FormChoices;
  known: KnownDomains;
}

const CLOSED_WORDS = {
  "not yet": "forms.thisFormOpensLater",
  over: "forms.thisFormIsClosed",
} as const;

/** The pages for families: the form behind its short address, their own answers behind their own link. */
export function formPublicRoutes(app: Hono, context: Context): void {
  const { db, settings } = context;
  const atHand = new Map<string, Promise<AtHand>>();
  context.events.on((topic) => {
    if (topic === "forms" || topic === "board") atHand.clear();
  });

  /** A form with what it needs, asked for once in a few seconds however many fill it in. */
  async function find(slug: string): Promise<AtHand> {
    const known = await atHand.get(slug)?.catch(() => undefined);
    if (known !== undefined && Date.now() - known.at < REMEMBERED) return known;
    const asked = (async (): Promise<AtHand> => {
      const [own] = await loadForms(db, eq(form.slug, slug));
      return own === undefined
        ? { at: Date.now(), own, choices: { classes: [], teams: [] }, known: new Map() }
        : {
            at: Date.now(),
            own,
            choices: await choicesOf(db, own),
            known: await knownDomains(db, own.seasonId),
          };
    })();
    if (atHand.size > 200) atHand.clear();
    atHand.set(slug, asked);
    return asked;
  }

  const wordsFor = (http: HonoContext, own: LoadedForm, language = ""): FormWords =>
    wordsIn(
      own.content,
      language ||
        http.req.query("language") ||
        languageFor(own.content, http.req.header("Accept-Language") ?? ""),
    );
  const page = (
    http: HonoContext,
    own: { house: string },
    words: Pick<FormWords, "language">,
    title: string,
    body: unknown,
    status: 200 | 404 | 422 | 429 = 200,
  ) => {
    http.header("Cache-Control", "no-store");
    return http.html(familyPage(title, words.language, own.house, body), status);
  };
  const gone = (http: HonoContext) =>
    page(
      http,
      { house: "" },
      { language: "en" },
      t("forms.thisAddressLeadsNowhere"),
      html`<p>${t("forms.theFormMayBeOver")}</p>`,
      404,
    );
  const languagesOf = (own: LoadedForm, more: string) =>
    own.content.words.map(({ language }) => ({
      code: language,
      url: `/f/${own.slug}?language=${encodeURIComponent(language)}${more}`,
    }));

  /** One more request of a network address in this minute; whether that is still within what is let pass. */
  async function withinRate(http: HonoContext): Promise<boolean> {
    const { rows } = await db.execute<{ count: number }>(
      sql`insert into send_rate (key, minute, count) values (${`form ${networkAddress(http, settings)}`}, date_trunc('minute', now()), 1) on conflict (key, minute) do update set count = send_rate.count + 1 returning count`,
    );
    return Number(rows[0]?.count ?? 0) <= settings.formPerMinute;
  }

  /** Whether this very answer is kept already. */
  async function isThere(formId: string, answer: Answer): Promise<boolean> {
    const { rows } = await db.execute(
      sql`select 1 from form_answer where form_id = ${formId} and address = ${answer.address} and answer = ${JSON.stringify(answer)}::jsonb limit 1`,
    );
    return rows.length > 0;
  }

  app.get("/f/mine/:token", async (http) => {
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
  });

  app.post("/f/mine/:token", async (http) => {
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
  });

  app.get("/f/second/:token", async (http) => {
    const link = await linkBehind(db, http.req.param("token"), "second guardian");
    const found = link === undefined ? undefined : await secondOf(link.about);
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
  });

  app.post("/f/second/:token", async (http) => {
    const link = await takeLink(db, http.req.param("token"), "second guardian");
    const found = link === undefined ? undefined : await secondOf(link.about);
    if (link === undefined || found === undefined) return gone(http);
    await confirmSecond(db, link.about, link.address);
    return page(
      http,
      found.own,
      { language: "en" },
      t("shared.thankYou"),
      html`<p>${t("forms.isWithTheOfficeNow", { address: link.address })}</p>`,
    );
  });

  async function secondOf(
    answerId: string,
  ): Promise<{ own: LoadedForm; answer: Answer } | undefined> {
    const [row] = await db
      .select({ formId: formAnswer.formId, answer: formAnswer.answer })
      .from(formAnswer)
      .where(eq(formAnswer.id, answerId));
    const [own] = row === undefined ? [] : await loadForms(db, eq(form.id, row.formId));
    return row === undefined || own === undefined ? undefined : { own, answer: row.answer };
  }

  app.get("/f/:slug", async (http) => {
    const { own, choices } = await find(http.req.param("slug"));
    if (own === undefined) return gone(http);
    const words = wordsFor(http, own);
    const is = isOpen(own);
    if (is !== "open")
      return page(
        http,
        own,
        words,
        words.title,
        html`<p>
          <b>${t(CLOSED_WORDS[is])}.</b>
          ${is === "not yet" ? t("forms.opensOn", { day: { day: own.content.opensOn } }) : t("forms.tellTheSchool", { school: own.house, address: `postmaster@${own.listDomain}` })}
        </p>`,
      );
    const mine = http.req.query("mine") ?? "";
    const link = mine === "" ? undefined : await linkBehind(db, mine, "sign-up");
    const isMine = link !== undefined && link.about === own.id;
    const changes = http.req.query("changes") ?? "";
    const before = isMine ? await answersOf(db, own.id, link.address) : [];
    const changed = before.find(({ id }) => id === changes);
    const last = before[0];
    const caller = await findCaller(http, context);
    const fields =
      changed !== undefined
        ? fieldsOf(changed.answer)
        : last !== undefined
          ? guardianFields(last.answer)
          : caller !== undefined
            ? { name: caller.name, address: caller.email }
            : {};
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
          fields: { ...fields, code: http.req.query("code") ?? "" },
          faults: [],
          action: `/f/${own.slug}`,
          begun: provenOpening(context.dkim.pem, Date.now()),
          mine: isMine ? mine : "",
          changes: changed?.id ?? "",
          known: !isMine && caller !== undefined,
        },
        languagesOf(
          own,
          isMine ? `&mine=${encodeURIComponent(mine)}&changes=${changed?.id ?? ""}` : "",
        ),
      ),
    );
  });

  app.post("/f/:slug/check", async (http) => {
    const { own, known } = await find(http.req.param("slug"));
    if (own === undefined || !(await withinRate(http)))
      return http.json({ sentence: "", proposal: "" });
    const body = await readForm(http);
    const read = readAddress((body.address ?? "").slice(0, 400), known);
    return http.json(
      read.answer === "clean"
        ? { sentence: "", proposal: "" }
        : {
            // How often a domain is used here is nobody's business outside.
            sentence: say(faultForOutsiders(read)),
            proposal: read.answer === "probably" ? read.address : "",
          },
    );
  });

  app.post("/f/:slug", async (http) => {
    const { own, choices, known } = await find(http.req.param("slug"));
    if (own === undefined) return gone(http);
    const sent: Record<string, string> = Object.fromEntries(
      Object.entries(await readForm(http)).map(([name, value]) => [name, value.slice(0, 4000)]),
    );
    const words = wordsFor(http, own, sent.language);
    const is = isOpen(own);
    if (is !== "open")
      return page(http, own, words, words.title, html`<p><b>${t(CLOSED_WORDS[is])}.</b></p>`);
    if (!(await withinRate(http)))
      return page(
        http,
        own,
        words,
        words.title,
        html`<p>${t("forms.muchWasSentFromHere")}</p>`,
        429,
      );
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
      !(await isThere(own.id, answer));
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
        changes:
          isMine && /^[0-9a-f-]{36}$/.test(fields.changes ?? "") ? fields.changes : undefined,
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
  });
}

/** What a family sees of its own answers. Nothing of it says what else the house knows. */
function minePage(
  own: LoadedForm,
  token: string,
  address: string,
  answers: Awaited<ReturnType<typeof answersOf>>,
) {
  const waiting = answers.filter(({ state }) => state === "unconfirmed").length;
  const open = isOpen(own) === "open";
  const mine = `/f/${own.slug}?mine=${encodeURIComponent(token)}`;
  return html` <p>${t("forms.answersFrom", { address })}</p>
    ${waiting === 0 ? "" : html`<form method="post" action="/f/mine/${token}"><button>${t("forms.yes", { waiting })}</button></form>`}
    ${answers.map(
      ({ id, answer, state }) =>
        html`<div class="answer">
          <b>${answer.given} ${answer.family}</b>
          <span class="state">${state === "replaced" ? "" : t(STATE_WORDS[state])}</span>
          <dl>
            ${[
              [t("forms.class"), answer.class],
              [t("forms.team"), answer.team],
              [t("shared.guardian"), answer.name],
              [
                t("forms.secondGuardian"),
                answer.secondName === "" ? "" : `${answer.secondName} ${answer.secondAddress}`,
              ],
            ].flatMap(([term, value]) =>
              value === ""
                ? []
                : [
                    html`<dt>${term}</dt>
                      <dd>${value}</dd>`,
                  ],
            )}
          </dl>
          ${open && state !== "unconfirmed" ? html`<a href="${mine}&changes=${id}">${t("forms.changeThisAnswer")}</a>` : ""}
        </div>`,
    )}
    ${open && answers.length > waiting ? html`<p class="more"><a href="${mine}">${t("forms.addAnotherChild")}</a></p>` : ""}`;
}

const STATE_WORDS: Record<Exclude<AnswerState, "replaced">, TextId> = {
  unconfirmed: "forms.waitsForYourDecision",
  accepted: "forms.isWithTheOffice",
  asked: "forms.isWithTheOffice",
  held: "forms.isWithTheOffice",
  refused: "forms.couldNotBeTakenAsk",
};

function fieldsOf(answer: Answer): Record<string, string> {
  return {
    ...guardianFields(answer),
    given: answer.given,
    family: answer.family,
    class: answer.class,
    team: answer.team,
    ...Object.fromEntries(answer.questions.map((text, at) => [`question.${at}`, text])),
    consent: "yes",
  };
}

function guardianFields({
  name,
  address,
  relationship,
  secondName,
  secondAddress,
  secondRelationship,
  howOften,
  family,
}: Answer): Record<string, string> {
  return {
    name,
    address,
    relationship,
    secondName,
    secondAddress,
    secondRelationship,
    howOften,
    family,
  };
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

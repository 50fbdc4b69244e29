import { paperOf } from "@amigo/core/text/place";
import { and, eq, sql, type SQL } from "drizzle-orm";
import type { Context as HonoContext, Hono } from "hono";
import Papa from "papaparse";
import { wordsIn, type FormContent } from "@amigo/core/forms/form";
import { harmlessCell } from "@amigo/core/sheet/harmlessCell";
import { fold } from "@amigo/core/text/fold";
import {
  getAnswers,
  getForm,
  getForms,
  getMissing,
  getOlderAnswers,
  postAnswerDecision,
  postForm,
  postFormPreview,
  putForm,
  type AnswerLine,
} from "@amigo/contract/forms";
import { callerMay, type Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { isTaken } from "../db/isTaken";
import { notify } from "../events/events";
import { notFound, Refusal } from "../http/fault";
import { needCaller, route } from "../http/route";
import { record } from "../journal/record";
import { familyPage, formFields } from "./formPage";
import { missingFor } from "./missing";
import { noticePdf, qrPng, qrSvg, slipsPdf } from "./notice";
import {
  choicesOf,
  cohortsFor,
  consentOf,
  formLines,
  formsOf,
  loadForms,
  type LoadedForm,
} from "./queries";
import { codesFor } from "./slips";
import { decideAnswer, formOfAnswer } from "./takeAnswer";
import { t } from "../texts/t";
import { house, season } from "../db/schema/house";
import { source } from "../db/schema/sources";
import { type ConsentVersion, form, formAnswer } from "../db/schema/forms";

const AT_ONCE = 100;

/** Making forms, looking at their answers, and handing them out. */
export function formRoutes(app: Hono, context: Context): void {
  const { db, settings } = context;

  route(app, context, getForms, async ({ caller }) => ({
    forms: await formLines(
      db,
      await loadForms(db, and(formsOf(caller), eq(season.current, true))),
      settings.url,
    ),
    choices: await cohortsFor(db, caller),
  }));

  route(app, context, postFormPreview, async ({ body }) => {
    const [own] = await db.select({ name: house.name }).from(house);
    const [current] = await db
      .select({ id: season.id })
      .from(season)
      .where(eq(season.current, true));
    const words = wordsIn(body.content, body.language);
    const fields = formFields(
      body.content,
      words,
      await choicesOf(db, { seasonId: current?.id ?? 0, content: body.content }),
      { fields: {}, faults: [], action: "", begun: "", mine: "", changes: "", known: false },
      body.content.words.map(({ language }) => ({ code: language, url: "#" })),
    );
    return {
      html: String(
        familyPage(words.title, words.language, own?.name ?? "", fields, { script: false }),
      ),
    };
  });

  route(app, context, postForm, async ({ body, caller }) => {
    await checkCohorts(caller, body.content);
    const [current] = await db
      .select({ id: season.id })
      .from(season)
      .where(eq(season.current, true));
    if (current === undefined)
      throw new Refusal(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
    const title = wordsIn(body.content, "").title;
    return db.transaction(async (tx) => {
      const [made] = await tx
        .insert(source)
        .values({
          name: title,
          kind: "form",
          whole: false,
          seasonId: current.id,
          mode: modeFor(caller, body.mode, "ask"),
        })
        .onConflictDoNothing()
        .returning({ id: source.id });
      if (made === undefined)
        throw new Refusal(
          409,
          "form/title-taken",
          t("forms.thereIsASourceCalled", { title }),
          "title",
        );
      const [own] = await tx
        .insert(form)
        .values({
          sourceId: made.id,
          slug: body.slug,
          content: body.content,
          consents: nextConsents([], body.content),
          accountId: caller.id,
        })
        .onConflictDoNothing()
        .returning({ id: form.id });
      if (own === undefined)
        throw new Refusal(
          409,
          "form/slug-taken",
          t("forms.anotherFormHasTheAddress", { slug: body.slug }),
          "slug",
        );
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "make form",
        sentence: t("forms.madeTheSignUpForm", { name: caller.name, title }),
        after: { form: own.id },
      });
      await notify(tx, "forms", "sources");
      return { id: own.id };
    });
  });

  route(app, context, getForm, async ({ params, caller }) => {
    const own = await seen(params.id, caller);
    const [line] = await formLines(db, [own], settings.url);
    if (line === undefined) throw notFound("form");
    return {
      ...line,
      slug: own.slug,
      version: own.version,
      content: own.content,
      mode: own.mode,
      consent: consentOf(own),
      choices: await cohortsFor(db, caller),
      mayStep: callerMay(caller, "decide a round"),
    };
  });

  route(app, context, putForm, async ({ params, body, caller }) => {
    const before = await seen(params.id, caller);
    await checkCohorts(caller, body.content);
    const title = wordsIn(body.content, "").title;
    return db.transaction(async (tx) => {
      const [own] = await tx
        .update(form)
        .set({
          slug: body.slug,
          content: body.content,
          consents: nextConsents(before.consents, body.content),
          version: body.version + 1,
        })
        .where(and(eq(form.id, before.id), eq(form.version, body.version)))
        .returning({ version: form.version })
        .catch((failure: unknown) => {
          throw isTaken(failure)
            ? new Refusal(
                409,
                "form/slug-taken",
                t("forms.anotherFormHasTheAddress", { slug: body.slug }),
                "slug",
              )
            : failure;
        });
      if (own === undefined)
        throw new Refusal(409, "form/changed", t("forms.somebodyElseHasChangedThis"));
      await tx
        .update(source)
        .set({ name: title, mode: modeFor(caller, body.mode, before.mode) })
        .where(eq(source.id, before.source))
        .catch((failure: unknown) => {
          throw isTaken(failure)
            ? new Refusal(
                409,
                "form/title-taken",
                t("forms.thereIsASourceCalled", { title }),
                "title",
              )
            : failure;
        });
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "change form",
        sentence: t("forms.changedTheSignUpForm", { name: caller.name, title }),
        before: { slug: before.slug, content: before.content, mode: before.mode },
        after: { slug: body.slug, content: body.content, mode: body.mode },
      });
      await notify(tx, "forms", "sources");
      return { version: own.version };
    });
  });

  route(app, context, getAnswers, async ({ params, query, caller }) => {
    const own = await seen(params.id, caller);
    const where = and(eq(formAnswer.formId, own.id), stateIs(query.state), wordsAre(query.q));
    const [count] = await db
      .select({ total: sql<number>`count(*)`.mapWith(Number) })
      .from(formAnswer)
      .where(where);
    const rows = await db
      .select()
      .from(formAnswer)
      .where(where)
      .orderBy(SORTS[query.sort])
      .limit(AT_ONCE)
      .offset(query.from);
    return { total: count?.total ?? 0, answers: await lines(db, rows) };
  });

  route(app, context, getOlderAnswers, async ({ params, caller }) => {
    await seen((await formOfAnswer(db, params.id)) ?? params.id, caller);
    const [own] = await db.select().from(formAnswer).where(eq(formAnswer.id, params.id));
    if (own === undefined) throw notFound("answer");
    return lines(
      db,
      await db
        .select()
        .from(formAnswer)
        .where(
          and(
            eq(formAnswer.formId, own.formId),
            eq(formAnswer.child, own.child),
            eq(formAnswer.state, "replaced"),
            sql`${formAnswer.number} < ${own.number}`,
          ),
        )
        .orderBy(sql`${formAnswer.number} desc`)
        .limit(AT_ONCE),
    );
  });

  route(app, context, postAnswerDecision, async ({ params, body, caller }) => {
    const own = await seen((await formOfAnswer(db, params.id)) ?? params.id, caller);
    const state = await decideAnswer(
      db,
      own,
      settings.url,
      params.id,
      { id: caller.id, name: caller.name },
      body.take,
    );
    if (state === undefined)
      throw new Refusal(409, "form/decided", t("forms.somebodyHasDecidedOnThis"));
    return { state };
  });

  route(app, context, getMissing, async ({ params, caller }) =>
    missingFor(db, await seen(params.id, caller), caller),
  );

  file(
    "/api/forms/:id/answers.csv",
    "text/csv; charset=utf-8",
    (own) => `${own.slug}-answers.csv`,
    async (own) => {
      const words = wordsIn(own.content, "");
      const rows = await db
        .select()
        .from(formAnswer)
        .where(eq(formAnswer.formId, own.id))
        .orderBy(formAnswer.number);
      const head = [
        t("forms.answered"),
        t("forms.state"),
        t("shared.firstName"),
        t("shared.surname"),
        t("forms.class"),
        t("forms.team"),
        t("shared.guardian"),
        t("shared.address"),
        t("forms.relationship"),
        t("forms.secondGuardian"),
        t("forms.secondAddress"),
        t("forms.secondRelationship"),
        ...words.questions.map(({ title }) => title),
        t("forms.howOften"),
        t("forms.consent"),
        t("forms.language"),
        t("forms.decidedBy"),
      ];
      const cells = rows.map(({ at, state, answer, language, decidedBy }) => [
        at.toISOString(),
        state,
        answer.given,
        answer.family,
        answer.class,
        answer.team,
        answer.name,
        answer.address,
        answer.relationship,
        answer.secondName,
        answer.secondAddress,
        answer.secondRelationship,
        ...own.content.questions.map((_, index) => answer.questions[index] ?? ""),
        answer.howOften,
        answer.consent === 0 ? "" : String(answer.consent),
        language,
        decidedBy,
      ]);
      return `\uFEFF${Papa.unparse(
        [head, ...cells].map((row) => row.map(harmlessCell)),
        { newline: "\r\n" },
      )}`;
    },
  );
  file(
    "/api/forms/:id/qr.svg",
    "image/svg+xml",
    (own) => `${own.slug}.svg`,
    (own) => qrSvg(urlOf(own)),
  );
  file(
    "/api/forms/:id/qr.png",
    "image/png",
    (own) => `${own.slug}.png`,
    (own) => qrPng(urlOf(own)),
  );
  file(
    "/api/forms/:id/notice.pdf",
    "application/pdf",
    (own) => `${own.slug}-notice.pdf`,
    (own, http) => {
      const words = wordsIn(own.content, http.req.query("language") ?? "");
      const paper = http.req.query("paper");
      return noticePdf({
        house: own.house,
        paper: paper === "A4" || paper === "Letter" ? paper : "A5",
        title: words.title,
        line: http.req.query("line")?.slice(0, 300) ?? "",
        url: urlOf(own),
        language: words.language,
      });
    },
  );
  file(
    "/api/forms/:id/slips.pdf",
    "application/pdf",
    (own) => `${own.slug}-slips.pdf`,
    async (own, _, caller) => {
      const { students } = await missingFor(db, own, caller);
      const codes = await codesFor(
        db,
        own.id,
        students.map(({ id }) => id),
      );
      const [place] = await db.select({ country: house.country }).from(house);
      return slipsPdf({
        house: own.house,
        paper: paperOf(place?.country ?? ""),
        title: wordsIn(own.content, "").title,
        slips: students.map(({ id, name, classes }) => ({
          name,
          classes: classes.join(", "),
          code: codes.get(id) ?? "",
          url: `${urlOf(own)}?code=${codes.get(id) ?? ""}`,
        })),
      });
    },
  );

  /** A file of one form, for whoever sees the form. */
  function file(
    path: string,
    type: string,
    name: (own: LoadedForm) => string,
    make: (own: LoadedForm, http: HonoContext, caller: Caller) => Promise<string | Buffer>,
  ): void {
    app.get(path, async (http) => {
      const caller = await needCaller(http, context, "make forms");
      const own = await seen(http.req.param("id") ?? "", caller);
      const made = await make(own, http, caller);
      if (/\.csv$|slips/.test(path))
        await record(db, {
          actorId: caller.id,
          actor: caller.name,
          action: "export form",
          sentence: t("forms.downloadedOfTheForm", {
            name: caller.name,
            file: name(own),
            title: wordsIn(own.content, "").title,
          }),
          after: { form: own.id },
        });
      return http.body(typeof made === "string" ? made : new Uint8Array(made), 200, {
        "Content-Type": type,
        "Content-Disposition": `${http.req.query("look") === undefined ? "attachment" : "inline"}; filename="${name(own)}"`,
        "Cache-Control": "no-store",
      });
    });
  }

  const urlOf = (own: LoadedForm): string => `${settings.url}/f/${own.slug}`;

  async function seen(id: string, caller: Caller): Promise<LoadedForm> {
    const [own] = /^[0-9a-f-]{36}$/i.test(id)
      ? await loadForms(db, and(eq(form.id, id), formsOf(caller)))
      : [];
    if (own === undefined) throw notFound("form");
    return own;
  }

  /** A lead offers the classes of the lists that they lead, and no others; a coordinator all. */
  async function checkCohorts(caller: Caller, { cohorts, parts }: FormContent): Promise<void> {
    if (caller.role === "coordinator") return;
    const own = new Set((await cohortsFor(db, caller)).map(({ key }) => key));
    const chooses = parts.includes("class") || parts.includes("team");
    if (chooses && (cohorts.length === 0 || cohorts.some((key) => !own.has(key))))
      throw new Refusal(403, "form/classes", t("forms.chooseTheClassesAndTeams"), "cohorts");
  }
}

/** Only who decides on rounds may let a form carry its own out. */
function modeFor(
  caller: Caller,
  wanted: "ask" | "itself",
  before: "ask" | "itself",
): "ask" | "itself" {
  return callerMay(caller, "decide a round") ? wanted : before;
}

/** The consent's versions, with a new one where its words have changed. */
function nextConsents(
  before: readonly ConsentVersion[],
  { words, parts }: FormContent,
): ConsentVersion[] {
  const texts = Object.fromEntries(
    words.map(({ language, consent }) => [language, consent.trim()]),
  );
  const last = before.at(-1);
  if (!parts.includes("consent") || JSON.stringify(last?.texts) === JSON.stringify(texts))
    return [...before];
  return [...before, { version: (last?.version ?? 0) + 1, since: new Date().toISOString(), texts }];
}

const SORTS: Record<"newest" | "child" | "class" | "guardian", SQL> = {
  newest: sql`${formAnswer.number} desc`,
  child: sql`${formAnswer.child}, ${formAnswer.number} desc`,
  class: sql`${formAnswer.answer}->>'class', ${formAnswer.child}`,
  guardian: sql`lower(${formAnswer.answer}->>'name'), ${formAnswer.number} desc`,
};

function stateIs(state: string): SQL | undefined {
  if (state === "all") return sql`${formAnswer.state} <> 'replaced'`;
  return state === "waiting"
    ? sql`${formAnswer.state} in ('asked', 'held')`
    : sql`${formAnswer.state} = ${state}`;
}

function wordsAre(text: string): SQL | undefined {
  const words = fold(text)
    .split(" ")
    .filter((word) => word !== "");
  return words.length === 0
    ? undefined
    : and(
        ...words.map(
          (word) =>
            sql`(position(${word} in ${formAnswer.child}) > 0 or position(${word} in lower(${formAnswer.address})) > 0 or position(${word} in lower(${formAnswer.answer}->>'name')) > 0 or position(${word} in lower(${formAnswer.answer}->>'class')) > 0)`,
        ),
      );
}

async function lines(
  db: Queries,
  rows: readonly (typeof formAnswer.$inferSelect)[],
): Promise<AnswerLine[]> {
  const [first] = rows;
  if (first === undefined) return [];
  const { rows: counts } = await db.execute<{ child: string; count: number }>(
    sql`select child, count(*)::int as count from form_answer where form_id = ${first.formId} and state = 'replaced' and child in (select own from json_array_elements_text(${JSON.stringify(rows.map(({ child }) => child))}::json) as own) group by child`,
  );
  return rows.map(
    ({ id, at, language, answer, state, why, secondConfirmedAt, decidedBy, child }) => ({
      id,
      at: at.toISOString(),
      language,
      answer,
      state,
      why,
      second:
        answer.secondAddress === "" ? "none" : secondConfirmedAt === null ? "waiting" : "confirmed",
      older: state === "replaced" ? 0 : (counts.find((own) => own.child === child)?.count ?? 0),
      decidedBy,
    }),
  );
}

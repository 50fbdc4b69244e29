import { and, eq, isNull, sql, type SQL, inArray, desc } from "drizzle-orm";
import { formIsOpen, wordsIn, type FormContent } from "@amigo/core/forms/form";
import type { FormChoices, Answer } from "@amigo/core/forms/readAnswer";
import type { FormLine, FormPage } from "@amigo/contract/forms";
import type { Caller } from "../callers/caller";
import type { Queries, Database } from "../db/connect";
import { changeableBy } from "../membership/scope";
import { house, season } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { source } from "../db/schema/sources";
import { cohort, list } from "../db/schema/lists";
import {
  form,
  formAnswer,
  type ConsentVersion,
  formCode,
  type AnswerState,
} from "../db/schema/forms";
import { nextConsents } from "./nextConsents";
import { modeFor } from "./modeFor";
import { mailedLink } from "../db/schema/members";

export type LoadedForm = Awaited<ReturnType<typeof loadForms>>[number];

/** Today in the house's time zone, as a calendar date. */
export const TODAY = sql<string>`to_char(now() at time zone ${house.timeZone}, 'YYYY-MM-DD')`;

const columns = {
  id: form.id,
  source: form.sourceId,
  slug: form.slug,
  version: form.version,
  content: form.content,
  consents: form.consents,
  by: account.name,
  mode: source.mode,
  seasonId: source.seasonId,
  current: season.current,
  house: house.name,
  listDomain: house.listDomain,
  timeZone: house.timeZone,
  today: TODAY,
};

const SORTS: Record<"newest" | "child" | "class" | "guardian", SQL> = {
  newest: sql`${formAnswer.number} desc`,
  child: sql`${formAnswer.child}, ${formAnswer.number} desc`,
  class: sql`${formAnswer.answer}->>'class', ${formAnswer.child}`,
  guardian: sql`lower(${formAnswer.answer}->>'name'), ${formAnswer.number} desc`,
};

const AT_ONCE = 100;

/** How many mails one address gets from one form in an hour, whoever fills it in. */
export const MAILS_AN_HOUR = 3;

/** The forms that somebody sees and looks after, as a condition on `form`: all for a coordinator, else those that they have made. */
export function formsOf(caller: Caller): SQL {
  return caller.role === "coordinator" ? sql`true` : eq(form.accountId, caller.id);
}

/** Forms with what belongs to them, by a condition. */
export async function loadForms(db: Queries, where: SQL | undefined) {
  return db
    .select(columns)
    .from(form)
    .innerJoin(source, eq(source.id, form.sourceId))
    .innerJoin(season, eq(season.id, source.seasonId))
    .innerJoin(account, eq(account.id, form.accountId))
    .innerJoin(house, sql`true`)
    .where(where)
    .orderBy(sql`${form.createdAt} desc`);
}

/** Whether a form can be filled in now: one of a season that is over can not. */
export function isOpen({
  content,
  today,
  current,
}: Pick<LoadedForm, "content" | "today" | "current">): FormLine["is"] {
  return current ? formIsOpen(content, today) : "over";
}

/** The version of the consent that families agree to now; 0 where a form asks for none. */
export function consentOf({ content, consents }: Pick<LoadedForm, "content" | "consents">): number {
  return content.parts.includes("consent") ? (consents.at(-1)?.version ?? 0) : 0;
}

/** A form in one line, with the counts of its answers. */
export async function formLines(
  db: Queries,
  forms: readonly LoadedForm[],
  url: string,
): Promise<FormLine[]> {
  const { rows } =
    forms.length === 0
      ? { rows: [] }
      : await db.execute<{ form_id: string; state: string; count: number }>(
          sql`select form_id, state, count(*)::int as count from ${formAnswer} where form_id in (select id::uuid from json_array_elements_text(${JSON.stringify(forms.map(({ id }) => id))}::json) as own(id)) group by form_id, state`,
        );
  return forms.map((own) => {
    const count = (...states: string[]): number =>
      rows
        .filter(({ form_id: id, state }) => id === own.id && states.includes(state))
        .reduce((sum, row) => sum + row.count, 0);
    return {
      id: own.id,
      source: own.source,
      title: wordsIn(own.content, "").title,
      url: `${url}/f/${own.slug}`,
      by: own.by,
      is: isOpen(own),
      opensOn: own.content.opensOn,
      closesOn: own.content.closesOn,
      counts: {
        unconfirmed: count("unconfirmed"),
        accepted: count("accepted"),
        waiting: count("asked", "held"),
        refused: count("refused"),
      },
    };
  });
}

/** The classes and teams of the current season that somebody may offer on a form: all for a coordinator, else those of the lists that they lead. */
export async function cohortsFor(db: Queries, caller: Caller): Promise<FormPage["choices"]> {
  const led =
    caller.role === "coordinator"
      ? sql`true`
      : sql`${cohort.id} in (select ${list.cohortId} from ${list} where ${changeableBy(caller)})`;
  const rows = await db
    .select({
      key: cohort.key,
      name: cohort.name,
      site: sql<string>`coalesce((select site.name from site where site.id = ${cohort.siteId}), '')`,
      kind: cohort.kind,
    })
    .from(cohort)
    .innerJoin(season, and(eq(season.id, cohort.seasonId), eq(season.current, true)))
    .where(and(led, isNull(cohort.goneAt)))
    .orderBy(cohort.name);
  return rows.flatMap(({ kind, ...row }) =>
    kind === "class" || kind === "team" ? [{ ...row, kind }] : [],
  );
}

/** The names of classes and teams that a form offers now. */
export async function choicesOf(
  db: Queries,
  { seasonId, content }: Pick<LoadedForm, "seasonId" | "content">,
): Promise<FormChoices> {
  const rows = await db
    .select({ key: cohort.key, name: cohort.name, kind: cohort.kind })
    .from(cohort)
    .where(and(eq(cohort.seasonId, seasonId), isNull(cohort.goneAt)))
    .orderBy(cohort.name);
  const offered = offeredOf(content);
  const of = (kind: string): string[] =>
    rows
      .filter((row) => row.kind === kind && (offered === undefined || offered.has(row.key)))
      .map(({ name }) => name);
  return { classes: of("class"), teams: of("team") };
}

/** The keys that a form offers; undefined for all. */
export function offeredOf({
  cohorts,
}: Pick<FormContent, "cohorts">): ReadonlySet<string> | undefined {
  return cohorts.length === 0 ? undefined : new Set(cohorts);
}

/** Returns every answer of a form in the order in which they came, to be exported. */
export function answersToExport(db: Queries, formId: string) {
  return db
    .select()
    .from(formAnswer)
    .where(eq(formAnswer.formId, formId))
    .orderBy(formAnswer.number);
}

/** Stores what a form is, and returns its new version; none where somebody changed it meanwhile. */
export function changeFormContent(
  db: Queries,
  slug: string,
  content: FormContent,
  version: number,
  consents: ConsentVersion[],
  id: string,
) {
  return db
    .update(form)
    .set({
      slug,
      content,
      consents: nextConsents(consents, content),
      version: version + 1,
    })
    .where(and(eq(form.id, id), eq(form.version, version)))
    .returning({ version: form.version });
}

/** Gives the source of a form its name and how it is read. */
export function renameSource(
  db: Queries,
  name: string,
  caller: Caller,
  wantedMode: "ask" | "itself",
  mode: "ask" | "itself",
  id: string,
) {
  return db
    .update(source)
    .set({ name, mode: modeFor(caller, wantedMode, mode) })
    .where(eq(source.id, id));
}

/** Returns an answer and the form that it is to, or undefined. */
export async function findAnswered(db: Queries, id: string) {
  const [found] = await db
    .select({ formId: formAnswer.formId, answer: formAnswer.answer })
    .from(formAnswer)
    .where(eq(formAnswer.id, id));
  return found;
}

/** Makes the source of a form, and returns its id; undefined where one has its name. */
export async function storeFormSource(
  db: Queries,
  name: string,
  seasonId: number,
  caller: Caller,
  mode: "ask" | "itself",
) {
  const [found] = await db
    .insert(source)
    .values({
      name,
      kind: "form",
      whole: false,
      seasonId,
      mode: modeFor(caller, mode, "ask"),
    })
    .onConflictDoNothing()
    .returning({ id: source.id });
  return found;
}

/** Makes a form, and returns its id; undefined where its short address is taken. */
export async function storeForm(
  db: Queries,
  sourceId: string,
  slug: string,
  content: FormContent,
  accountId: string,
) {
  const [found] = await db
    .insert(form)
    .values({
      sourceId,
      slug,
      content,
      consents: nextConsents([], content),
      accountId,
    })
    .onConflictDoNothing()
    .returning({ id: form.id });
  return found;
}

/** Lists the children and addresses of answers to a form that count. */
export function listAnswered(db: Queries, formId: string) {
  return db
    .select({ child: formAnswer.child, address: formAnswer.address })
    .from(formAnswer)
    .where(
      and(eq(formAnswer.formId, formId), inArray(formAnswer.state, ["accepted", "asked", "held"])),
    );
}

/** Stores that the answers of a form were read. */
export async function markRead(
  db: Queries,
  seen: Record<string, string>,
  sourceId: string,
): Promise<void> {
  await db
    .update(source)
    .set({ seen, outcome: "", failures: 0, failingSince: null, triedAt: sql`now()` })
    .where(eq(source.id, sourceId));
}

/** Stores why the answers of a form could not be read. */
export async function markUnread(db: Queries, outcome: string, sourceId: string): Promise<void> {
  await db
    .update(source)
    .set({
      outcome,
      failures: sql`${source.failures} + 1`,
      failingSince: sql`coalesce(${source.failingSince}, now())`,
      triedAt: sql`now()`,
    })
    .where(eq(source.id, sourceId));
}

/** Lists the accepted answers of a form as its sheet shows them. */
export function listForSheet(db: Queries, timeZone: string, formId: string) {
  return db
    .select({
      at: sql<string>`to_char(${formAnswer.at} at time zone ${timeZone}, 'YYYY-MM-DD HH24:MI:SS')`,
      answer: formAnswer.answer,
      second: formAnswer.secondConfirmedAt,
    })
    .from(formAnswer)
    .where(and(eq(formAnswer.formId, formId), eq(formAnswer.state, "accepted")))
    .orderBy(formAnswer.number);
}

/** Counts answers. */
export async function countAnswers(db: Queries, where: SQL<unknown> | undefined) {
  const [found] = await db
    .select({ total: sql<number>`count(*)`.mapWith(Number) })
    .from(formAnswer)
    .where(where);
  return found;
}

/** Lists answers in an order, a page of them. */
export function listAnswersBy(
  db: Queries,
  where: SQL<unknown> | undefined,
  sort: "class" | "child" | "guardian" | "newest",
  from: number,
) {
  return db.select().from(formAnswer).where(where).orderBy(SORTS[sort]).limit(AT_ONCE).offset(from);
}

/** Returns the answer with an id, or undefined. */
export async function findAnswer(db: Queries, id: string) {
  const [found] = await db.select().from(formAnswer).where(eq(formAnswer.id, id));
  return found;
}

/** Lists older answers for the same child that a newer one has replaced. */
export function listReplaced(db: Queries, formId: string, child: string, number: number) {
  return db
    .select()
    .from(formAnswer)
    .where(
      and(
        eq(formAnswer.formId, formId),
        eq(formAnswer.child, child),
        eq(formAnswer.state, "replaced"),
        sql`${formAnswer.number} < ${number}`,
      ),
    )
    .orderBy(sql`${formAnswer.number} desc`)
    .limit(AT_ONCE);
}

/** Counts, for each child, the answers that newer ones have replaced. */
export function countReplaced(db: Queries, formId: string, answers: readonly { child: string }[]) {
  return db.execute<{ child: string; count: number }>(
    sql`select child, count(*)::int as count from form_answer where form_id = ${formId} and state = 'replaced' and child in (select own from json_array_elements_text(${JSON.stringify(answers.map(({ child }) => child))}::json) as own) group by child`,
  );
}

/** Lists for which students a form has a code, and which. */
export function listCodes(db: Queries, formId: string) {
  return db
    .select({ student: formCode.student, code: formCode.code })
    .from(formCode)
    .where(eq(formCode.formId, formId));
}

/** Stores codes by which families sign up. */
export async function storeCodes(
  db: Queries,
  codes: { formId: string; student: string; code: string }[],
): Promise<void> {
  await db.insert(formCode).values(codes).onConflictDoNothing();
}

/** Stores an answer that waits to be confirmed, once however often it is sent, and returns its id. */
export function storeAnswer(
  db: Queries,
  formId: string,
  answer: Answer,
  child: string,
  language: string,
  changes: string | undefined,
  code: string,
) {
  return db.execute<{
    id: string;
  }>(sql`with same as (select id from form_answer where form_id = ${formId} and address = ${answer.address} and child = ${child} and state = 'unconfirmed' and answer = ${JSON.stringify(answer)}::jsonb limit 1),
      made as (insert into form_answer (form_id, language, answer, address, child, changes, code) select ${formId}::uuid, ${language}, ${JSON.stringify(answer)}::jsonb, ${answer.address}, ${child}, ${changes ?? null}::uuid, ${code} where not exists (select 1 from same) returning id)
      select id from same union all select id from made`);
}

/** Returns the answers from an address that wait to be confirmed, locked. */
export function lockUnconfirmed(
  db: Queries,
  formId: string,
  address: string,
  only: string | undefined,
) {
  return db
    .select()
    .from(formAnswer)
    .where(
      and(
        eq(formAnswer.formId, formId),
        eq(formAnswer.address, address),
        eq(formAnswer.state, "unconfirmed"),
        ...(only === undefined ? [] : [eq(formAnswer.id, only)]),
      ),
    )
    .orderBy(formAnswer.number)
    .for("update");
}

/** Returns the answer that another one changes, if it is for the same child. */
export async function findOwnAnswer(db: Queries, id: string, formId: string, child: string) {
  const [found] = await db
    .select({ id: formAnswer.id })
    .from(formAnswer)
    .where(
      and(
        eq(formAnswer.id, id),
        eq(formAnswer.formId, formId),
        eq(formAnswer.child, child),
        inArray(formAnswer.state, ["accepted", "replaced"]),
      ),
    );
  return found;
}

/** Returns for which student a code is. */
export async function findCode(db: Queries, code: string, formId: string) {
  const [found] = await db
    .select({ student: formCode.student })
    .from(formCode)
    .where(and(eq(formCode.code, code), eq(formCode.formId, formId)));
  return found;
}

/** Returns a newer accepted answer for the same child from the same address, or undefined. */
export async function findNewer(
  db: Queries,
  formId: string,
  child: string,
  address: string,
  number: number,
) {
  const [found] = await db
    .select({ id: formAnswer.id })
    .from(formAnswer)
    .where(
      and(
        eq(formAnswer.formId, formId),
        eq(formAnswer.child, child),
        eq(formAnswer.address, address),
        eq(formAnswer.state, "accepted"),
        sql`${formAnswer.number} > ${number}`,
      ),
    )
    .limit(1);
  return found;
}

/** Stores that a newer answer has replaced this one. */
export async function markReplaced(db: Queries, id: string): Promise<void> {
  await db
    .update(formAnswer)
    .set({ state: "replaced", confirmedAt: sql`now()` })
    .where(eq(formAnswer.id, id));
}

/** Stores what became of an answer when it was confirmed. */
export async function markConfirmed(
  db: Queries,
  state: AnswerState,
  why: string,
  confirmedAt: Date | null,
  id: string,
): Promise<void> {
  await db
    .update(formAnswer)
    .set({ state, why, confirmedAt: confirmedAt ?? sql`now()` })
    .where(eq(formAnswer.id, id));
}

/** Returns the last accepted answer before this one, or undefined. */
export async function findBefore(db: Queries, older: SQL<unknown> | undefined) {
  const [found] = await db
    .select({ answer: formAnswer.answer, second: formAnswer.secondConfirmedAt })
    .from(formAnswer)
    .where(and(older, eq(formAnswer.state, "accepted")))
    .orderBy(desc(formAnswer.number))
    .limit(1);
  return found;
}

/** Stores that a newer answer has replaced those before it. */
export async function markOlderReplaced(
  db: Queries,
  older: SQL<unknown> | undefined,
): Promise<void> {
  await db
    .update(formAnswer)
    .set({ state: "replaced" })
    .where(and(older, inArray(formAnswer.state, ["accepted", "asked", "held", "unconfirmed"])));
}

/** Stores when the second guardian of an answer confirmed it. */
export async function storeSecondConfirmed(db: Queries, at: Date, id: string): Promise<void> {
  await db.update(formAnswer).set({ secondConfirmedAt: at }).where(eq(formAnswer.id, id));
}

/** Stores that the second guardian of an answer confirmed it just now. */
export async function markSecondConfirmed(db: Queries, id: string, address: string): Promise<void> {
  await db
    .update(formAnswer)
    .set({ secondConfirmedAt: sql`now()` })
    .where(and(eq(formAnswer.id, id), sql`${formAnswer.answer}->>'secondAddress' = ${address}`));
}

/** Returns an answer on which nobody has decided, locked, or undefined. */
export async function lockUndecided(db: Queries, id: string, formId: string) {
  const [found] = await db
    .select()
    .from(formAnswer)
    .where(
      and(
        eq(formAnswer.id, id),
        eq(formAnswer.formId, formId),
        inArray(formAnswer.state, ["asked", "held"]),
      ),
    )
    .for("update");
  return found;
}

/** Stores who decided on an answer. */
export async function markDecided(db: Queries, decidedBy: string, id: string): Promise<void> {
  await db
    .update(formAnswer)
    .set({ decidedBy, decidedAt: sql`now()` })
    .where(eq(formAnswer.id, id));
}

/** Whoever has asked for mail put together gets it so on each list that they are on, until they choose otherwise there. */
export async function applyHowOften(db: Queries): Promise<void> {
  await db.execute(sql`insert into receiving (list_id, address, how_often)
    select distinct on (membership.list_id, membership.address) membership.list_id, membership.address, own.answer->>'howOften' from form_answer own join form on form.id = own.form_id join source on source.id = form.source_id join list on list.season_id = source.season_id join membership on membership.list_id = list.id and membership.address = own.address and membership.valid_until is null
    where own.state = 'accepted' and own.answer->>'howOften' in ('daily', 'weekly') order by membership.list_id, membership.address, own.number desc on conflict (list_id, address) do nothing`);
}

/** Whether an address may be mailed about a form once more within the hour. */
export async function mayMail(tx: Queries, formId: string, address: string): Promise<boolean> {
  const [sent] = await tx
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(mailedLink)
    .where(
      and(
        eq(mailedLink.address, address),
        inArray(mailedLink.purpose, ["sign-up", "second guardian"]),
        sql`${mailedLink.about} = ${formId}`,
        sql`${mailedLink.createdAt} > now() - interval '1 hour'`,
      ),
    );
  return (sent?.count ?? 0) < MAILS_AN_HOUR;
}

/** The answers of one address to one form, newest first, without those that newer ones have replaced. */
export async function answersOf(db: Queries, formId: string, address: string) {
  return db
    .select()
    .from(formAnswer)
    .where(
      and(
        eq(formAnswer.formId, formId),
        eq(formAnswer.address, address),
        sql`${formAnswer.state} <> 'replaced'`,
      ),
    )
    .orderBy(desc(formAnswer.number))
    .limit(50);
}

/** The form that an answer belongs to. */
export async function formOfAnswer(db: Queries, answerId: string): Promise<string | undefined> {
  return (
    await db
      .select({ id: form.id })
      .from(formAnswer)
      .innerJoin(form, eq(form.id, formAnswer.formId))
      .where(eq(formAnswer.id, answerId))
  )[0]?.id;
}

/** Whether this very answer is kept already. */
export async function isThere(db: Database, formId: string, answer: Answer): Promise<boolean> {
  const { rows } = await db.execute(
    sql`select 1 from form_answer where form_id = ${formId} and address = ${answer.address} and answer = ${JSON.stringify(answer)}::jsonb limit 1`,
  );
  return rows.length > 0;
}

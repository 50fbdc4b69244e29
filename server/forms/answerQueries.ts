import { type SQL, sql, eq, and, inArray, desc } from "drizzle-orm";
import type { Answer } from "@amigo/core/forms/readAnswer";
import type { Queries, Database } from "../db/connect";
import { formAnswer, type AnswerState, form } from "../db/schema/forms";
import { season } from "../db/schema/house";
import { mailedLink } from "../db/schema/members";
import { source } from "../db/schema/sources";

const SORTS: Record<"newest" | "child" | "class" | "guardian", SQL> = {
  newest: sql`${formAnswer.number} desc`,
  child: sql`${formAnswer.child}, ${formAnswer.number} desc`,
  class: sql`${formAnswer.answer}->>'class', ${formAnswer.child}`,
  guardian: sql`lower(${formAnswer.answer}->>'name'), ${formAnswer.number} desc`,
};

const AT_ONCE = 100;

/** How many mails one address gets from one form in an hour, whoever fills it in. */
export const MAILS_AN_HOUR = 3;

/** Returns every answer of a form in the order in which they came, to be exported. */
export function answersToExport(db: Queries, formId: string) {
  return db
    .select()
    .from(formAnswer)
    .where(eq(formAnswer.formId, formId))
    .orderBy(formAnswer.number);
}

/** Returns an answer and the form that it is to, or undefined. */
export async function findAnswered(db: Queries, id: string) {
  const [found] = await db
    .select({ formId: formAnswer.formId, answer: formAnswer.answer })
    .from(formAnswer)
    .where(eq(formAnswer.id, id));
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

/** Stores the state that an answer got when it was confirmed. */
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

/** The forms whose counted answers are not those of the last reading. */
export async function changedForms(db: Queries) {
  const marks = db
    .select({
      formId: formAnswer.formId,
      mark: sql<string>`count(*) || ' ' || sum(${formAnswer.number}) || ' ' || count(${formAnswer.secondConfirmedAt})`.as(
        "mark",
      ),
    })
    .from(formAnswer)
    .where(eq(formAnswer.state, "accepted"))
    .groupBy(formAnswer.formId)
    .as("marks");
  return db
    .select({
      id: form.id,
      sourceId: source.id,
      seen: source.seen,
      mark: sql<string>`${marks.mark} || ' ' || ${form.version}`,
    })
    .from(form)
    .innerJoin(source, eq(source.id, form.sourceId))
    .innerJoin(season, and(eq(season.id, source.seasonId), eq(season.current, true)))
    .innerJoin(marks, eq(marks.formId, form.id))
    .where(
      sql`${source.seen}->>'answers' is distinct from ${marks.mark} || ' ' || ${form.version}`,
    );
}

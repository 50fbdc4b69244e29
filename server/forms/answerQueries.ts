import { type SQL, sql, eq, and, inArray, desc } from "drizzle-orm";
import type { Answer } from "@amigo/core/forms/readAnswer";
import type { Queries, Database } from "../db/connect";
import { formAnswer, form } from "../db/schema/forms";
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

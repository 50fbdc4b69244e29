import { type SQL, sql, eq, and, inArray } from "drizzle-orm";
import type { Answer } from "@amigo/core/forms/readAnswer";
import type { Queries } from "../db/connect";
import { formAnswer, type AnswerState } from "../db/schema/forms";
import { source } from "../db/schema/sources";

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

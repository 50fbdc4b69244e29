import { and, desc, eq, inArray, sql } from "drizzle-orm";
import { say } from "@amigo/language/say";
import { wordsIn } from "@amigo/core/forms/form";
import {
  confirmAnswerNote,
  decidedAnswerNote,
  secondGuardianNote,
  type AnswerTold,
} from "@amigo/core/forms/formNotes";
import { placeAnswer } from "@amigo/core/forms/placeAnswer";
import type { Answer } from "@amigo/core/forms/readAnswer";
import { fold } from "@amigo/core/text/fold";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { standingIndex } from "../facts/standing";
import { record } from "../journal/record";
import { makeLink } from "../posting/mailLink";
import { sendNote } from "../posting/sendNote";
import type { LoadedForm } from "./queries";
import { t } from "../texts/t";
import { mailedLink } from "../db/schema/members";
import { form, type AnswerState, formAnswer, formCode } from "../db/schema/forms";

/** For how long a family's own link is good, in hours: a school year and some weeks. */
const FAMILY_HOURS = 400 * 24;
const SECOND_HOURS = 60 * 24;
/** How many mails one address gets from one form in an hour, whoever fills it in. */
const MAILS_AN_HOUR = 3;

export interface NewAnswer {
  answer: Answer;
  language: string;
  /** The answer that it changes; undefined for a new one. */
  changes: string | undefined;
  /** Whether the address is known to be the writer's: by the family's own link, or by being signed in. */
  confirmed: boolean;
  /** The code of a printed slip; empty for none. */
  code: string;
}

/** The words under which two answers are known to be about one child. */
export function childKey({ given, family }: Pick<Answer, "given" | "family">): string {
  return fold(`${given} ${family}`);
}

/**
 * Takes an answer in. One whose address is not confirmed waits, and its owner is asked by mail; the same answer sent twice is
 * there once. Nobody is told whether address or child are known.
 */
export async function takeAnswer(
  db: Database,
  own: LoadedForm,
  url: string,
  { answer, language, changes, confirmed, code }: NewAnswer,
): Promise<void> {
  const child = childKey(answer);
  const id = await db.transaction(async (tx) => {
    const {
      rows: [made],
    } = await tx.execute<{
      id: string;
    }>(sql`with same as (select id from form_answer where form_id = ${own.id} and address = ${answer.address} and child = ${child} and state = 'unconfirmed' and answer = ${JSON.stringify(answer)}::jsonb limit 1),
      made as (insert into form_answer (form_id, language, answer, address, child, changes, code) select ${own.id}::uuid, ${language}, ${JSON.stringify(answer)}::jsonb, ${answer.address}, ${child}, ${changes ?? null}::uuid, ${code} where not exists (select 1 from same) returning id)
      select id from same union all select id from made`);
    if (made === undefined) throw new Error("the answer was not kept");
    if (!confirmed && (await mayMail(tx, own.id, answer.address))) {
      const token = await makeLink(tx, {
        purpose: "sign-up",
        address: answer.address,
        about: own.id,
        hours: FAMILY_HOURS,
      });
      await sendNote(
        tx,
        { name: "", address: answer.address },
        confirmAnswerNote(toldOf(own, { answer, language }, `${url}/f/mine/${token}`)),
        { what: "link" },
      );
    }
    return made.id;
  });
  if (confirmed) await confirmAnswers(db, own, url, { address: answer.address, only: id });
}

/** Whether an address may be mailed about a form once more within the hour. */
async function mayMail(tx: Queries, formId: string, address: string): Promise<boolean> {
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

/**
 * Confirms what waits for the word of an address: each answer is accepted, asked about or held. An accepted one takes the
 * place of the address's older ones for the same child.
 */
export async function confirmAnswers(
  db: Database,
  own: LoadedForm,
  url: string,
  { address, only }: { address: string; only?: string },
): Promise<number> {
  const index = await standingIndex(db, own.seasonId);
  return db.transaction(async (tx) => {
    const waiting = await tx
      .select()
      .from(formAnswer)
      .where(
        and(
          eq(formAnswer.formId, own.id),
          eq(formAnswer.address, address),
          eq(formAnswer.state, "unconfirmed"),
          ...(only === undefined ? [] : [eq(formAnswer.id, only)]),
        ),
      )
      .orderBy(formAnswer.number)
      .for("update");
    for (const row of waiting) {
      const isFamily = (await changesOwn(tx, row)) || (await hasCode(tx, own, row, index));
      const { path, why } = placeAnswer(row.answer, index, own.content, isFamily);
      await settle(tx, own, url, row, path, say(why));
    }
    if (waiting.length > 0) await notify(tx, "forms");
    return waiting.length;
  });
}

/** Whether an answer changes one that counts, for the same child: only its family has the link by which it could. */
async function changesOwn(
  tx: Queries,
  { changes, child, formId }: typeof formAnswer.$inferSelect,
): Promise<boolean> {
  if (changes === null) return false;
  const [before] = await tx
    .select({ id: formAnswer.id })
    .from(formAnswer)
    .where(
      and(
        eq(formAnswer.id, changes),
        eq(formAnswer.formId, formId),
        eq(formAnswer.child, child),
        inArray(formAnswer.state, ["accepted", "replaced"]),
      ),
    );
  return before !== undefined;
}

/** Whether an answer came with the code that was printed for just this child. */
async function hasCode(
  tx: Queries,
  own: LoadedForm,
  { code, child }: typeof formAnswer.$inferSelect,
  index: Awaited<ReturnType<typeof standingIndex>>,
): Promise<boolean> {
  if (code === "") return false;
  const [found] = await tx
    .select({ student: formCode.student })
    .from(formCode)
    .where(and(eq(formCode.code, code), eq(formCode.formId, own.id)));
  const student = found === undefined ? undefined : index.people.get(found.student);
  return student !== undefined && childKey(student) === child;
}

async function settle(
  tx: Queries,
  own: LoadedForm,
  url: string,
  row: typeof formAnswer.$inferSelect,
  state: AnswerState,
  why: string,
): Promise<void> {
  const [newer] = await tx
    .select({ id: formAnswer.id })
    .from(formAnswer)
    .where(
      and(
        eq(formAnswer.formId, own.id),
        eq(formAnswer.child, row.child),
        eq(formAnswer.address, row.address),
        eq(formAnswer.state, "accepted"),
        sql`${formAnswer.number} > ${row.number}`,
      ),
    )
    .limit(1);
  if (newer !== undefined) {
    await tx
      .update(formAnswer)
      .set({ state: "replaced", confirmedAt: sql`now()` })
      .where(eq(formAnswer.id, row.id));
    return;
  }
  await tx
    .update(formAnswer)
    .set({ state, why, confirmedAt: row.confirmedAt ?? sql`now()` })
    .where(eq(formAnswer.id, row.id));
  if (state !== "accepted") return;
  // The newest stands, the older are kept; an answer that waited meanwhile gives way to what came after it.
  const older = and(
    eq(formAnswer.formId, own.id),
    eq(formAnswer.child, row.child),
    sql`${formAnswer.number} < ${row.number}`,
    sql`(${formAnswer.address} = ${row.address} or ${formAnswer.id} = ${row.changes})`,
  );
  const [before] = await tx
    .select({ answer: formAnswer.answer, second: formAnswer.secondConfirmedAt })
    .from(formAnswer)
    .where(and(older, eq(formAnswer.state, "accepted")))
    .orderBy(desc(formAnswer.number))
    .limit(1);
  await tx
    .update(formAnswer)
    .set({ state: "replaced" })
    .where(and(older, inArray(formAnswer.state, ["accepted", "asked", "held", "unconfirmed"])));
  const { secondAddress } = row.answer;
  if (secondAddress === "") return;
  if (before?.second != null && before.answer.secondAddress === secondAddress) {
    await tx
      .update(formAnswer)
      .set({ secondConfirmedAt: before.second })
      .where(eq(formAnswer.id, row.id));
    return;
  }
  if (!(await mayMail(tx, row.id, secondAddress))) return;
  const token = await makeLink(tx, {
    purpose: "second guardian",
    address: secondAddress,
    about: row.id,
    hours: SECOND_HOURS,
  });
  await sendNote(
    tx,
    { name: "", address: secondAddress },
    secondGuardianNote(toldOf(own, row, `${url}/f/second/${token}`)),
    { what: "link" },
  );
}

/** The second guardian says that the address is theirs. */
export async function confirmSecond(
  db: Database,
  answerId: string,
  address: string,
): Promise<void> {
  await db.transaction(async (tx) => {
    await tx
      .update(formAnswer)
      .set({ secondConfirmedAt: sql`now()` })
      .where(
        and(eq(formAnswer.id, answerId), sql`${formAnswer.answer}->>'secondAddress' = ${address}`),
      );
    await notify(tx, "forms");
  });
}

/** Somebody who looks after a form lets an answer count, or refuses it; its family is told. Answers undefined where nothing waits any more. */
export async function decideAnswer(
  db: Database,
  own: LoadedForm,
  url: string,
  id: string,
  by: { id: string; name: string },
  take: boolean,
): Promise<AnswerState | undefined> {
  return db.transaction(async (tx) => {
    const [row] = await tx
      .select()
      .from(formAnswer)
      .where(
        and(
          eq(formAnswer.id, id),
          eq(formAnswer.formId, own.id),
          inArray(formAnswer.state, ["asked", "held"]),
        ),
      )
      .for("update");
    if (row === undefined) return undefined;
    const state = take ? "accepted" : "refused";
    await settle(tx, own, url, row, state, row.why);
    await tx
      .update(formAnswer)
      .set({ decidedBy: by.name, decidedAt: sql`now()` })
      .where(eq(formAnswer.id, id));
    const token = await makeLink(tx, {
      purpose: "sign-up",
      address: row.address,
      about: own.id,
      hours: FAMILY_HOURS,
    });
    await sendNote(
      tx,
      { name: row.answer.name, address: row.address },
      decidedAnswerNote(toldOf(own, row, `${url}/f/mine/${token}`), take),
    );
    await record(tx, {
      actorId: by.id,
      actor: by.name,
      action: take ? "take answer" : "refuse answer",
      sentence: t("forms.decidedOnAnAnswer", {
        by: by.name,
        taken: take,
        guardian: row.answer.name,
        child: `${row.answer.given} ${row.answer.family}`.trim(),
      }),
      after: { form: own.id, answer: id, why: row.why },
    });
    await notify(tx, "forms");
    return state;
  });
}

function toldOf(
  own: LoadedForm,
  { answer, language }: { answer: Answer; language: string },
  url: string,
): AnswerTold {
  return {
    house: own.house,
    title: wordsIn(own.content, language).title,
    child: `${answer.given} ${answer.family}`,
    url,
  };
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

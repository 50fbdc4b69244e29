import { and, eq, sql } from "drizzle-orm";
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
import { record } from "../events/record";
import { makeLink } from "../posting/mailLink";
import { familyLanguage } from "@amigo/language/families";
import { sendFamilyNote } from "../posting/sendNote";
import { keepLanguage, knownLanguage } from "../texts/familyLanguage";
import type { LoadedForm } from "./queries";
import { t } from "../texts/t";
import { type AnswerState, formAnswer } from "../db/schema/forms";
import { findOwnAnswer, findNewer, findBefore, mayMail } from "./answerQueries";
import {
  storeAnswer,
  lockUnconfirmed,
  markReplaced,
  markConfirmed,
  markOlderReplaced,
  storeSecondConfirmed,
  markSecondConfirmed,
  lockUndecided,
  markDecided,
} from "./answerChangeQueries";
import { findCode } from "./codeQueries";
import { inStaffLanguage } from "../texts/inLanguage";

/** For how long a family's own link is good, in hours: a school year and some weeks. */
const FAMILY_HOURS = 400 * 24;
const SECOND_HOURS = 60 * 24;

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
  form: LoadedForm,
  url: string,
  { answer, language, changes, confirmed, code }: NewAnswer,
): Promise<void> {
  const child = childKey(answer);
  const id = await db.transaction(async (tx) => {
    const {
      rows: [made],
    } = await storeAnswer(tx, form.id, answer, child, language, changes, code);
    if (made === undefined) throw new Error("the answer was not kept");
    if (!confirmed && (await mayMail(tx, form.id, answer.address))) {
      const token = await makeLink(tx, {
        purpose: "sign-up",
        address: answer.address,
        about: form.id,
        hours: FAMILY_HOURS,
      });
      await sendFamilyNote(
        tx,
        { name: "", address: answer.address },
        () => confirmAnswerNote(toldOf(form, { answer, language }, `${url}/f/mine/${token}`)),
        { what: "link", language: familyLanguage(language) ?? "en" },
      );
    }
    return made.id;
  });
  if (confirmed) await confirmAnswers(db, form, url, { address: answer.address, only: id });
}

/**
 * Confirms what waits for the word of an address: each answer is accepted, asked about or held. An accepted one takes the
 * place of the address's older ones for the same child.
 */
export async function confirmAnswers(
  db: Database,
  form: LoadedForm,
  url: string,
  { address, only }: { address: string; only?: string },
): Promise<number> {
  const index = await standingIndex(db, form.seasonId);
  return db.transaction(async (tx) => {
    const waiting = await lockUnconfirmed(tx, form.id, address, only);
    const language = familyLanguage(waiting.at(-1)?.language ?? "");
    if (language !== undefined) await keepLanguage(tx, address, language, "form");
    for (const row of waiting) {
      const isFamily = (await changesOwn(tx, row)) || (await hasCode(tx, form, row, index));
      const { path, why } = placeAnswer(row.answer, index, form.content, isFamily);
      await settle(
        tx,
        form,
        url,
        row,
        path,
        inStaffLanguage(() => say(why)),
      );
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
  const before = await findOwnAnswer(tx, changes, formId, child);
  return before !== undefined;
}

/** Whether an answer came with the code that was printed for just this child. */
async function hasCode(
  tx: Queries,
  form: LoadedForm,
  { code, child }: typeof formAnswer.$inferSelect,
  index: Awaited<ReturnType<typeof standingIndex>>,
): Promise<boolean> {
  if (code === "") return false;
  const found = await findCode(tx, code, form.id);
  const student = found === undefined ? undefined : index.people.get(found.student);
  return student !== undefined && childKey(student) === child;
}

async function settle(
  tx: Queries,
  form: LoadedForm,
  url: string,
  row: typeof formAnswer.$inferSelect,
  state: AnswerState,
  why: string,
): Promise<void> {
  const newer = await findNewer(tx, form.id, row.child, row.address, row.number);
  if (newer !== undefined) {
    await markReplaced(tx, row.id);
    return;
  }
  await markConfirmed(tx, state, why, row.confirmedAt, row.id);
  if (state !== "accepted") return;
  // The newest stands, the older are kept; an answer that waited meanwhile gives way to what came after it.
  const older = and(
    eq(formAnswer.formId, form.id),
    eq(formAnswer.child, row.child),
    sql`${formAnswer.number} < ${row.number}`,
    sql`(${formAnswer.address} = ${row.address} or ${formAnswer.id} = ${row.changes})`,
  );
  const before = await findBefore(tx, older);
  await markOlderReplaced(tx, older);
  const { secondAddress } = row.answer;
  if (secondAddress === "") return;
  if (before?.second != null && before.answer.secondAddress === secondAddress) {
    await storeSecondConfirmed(tx, before.second, row.id);
    return;
  }
  if (!(await mayMail(tx, row.id, secondAddress))) return;
  const token = await makeLink(tx, {
    purpose: "second guardian",
    address: secondAddress,
    about: row.id,
    hours: SECOND_HOURS,
  });
  await sendFamilyNote(
    tx,
    { name: "", address: secondAddress },
    () => secondGuardianNote(toldOf(form, row, `${url}/f/second/${token}`)),
    {
      what: "link",
      language: (await knownLanguage(tx, secondAddress)) ?? familyLanguage(row.language) ?? "en",
    },
  );
}

/** The second guardian says that the address is theirs. */
export async function confirmSecond(
  db: Database,
  answerId: string,
  address: string,
): Promise<void> {
  await db.transaction(async (tx) => {
    await markSecondConfirmed(tx, answerId, address);
    await notify(tx, "forms");
  });
}

/** Somebody who looks after a form lets an answer count, or refuses it; its family is told. Returns undefined where nothing waits any more. */
export async function decideAnswer(
  db: Database,
  form: LoadedForm,
  url: string,
  id: string,
  by: { id: string; name: string },
  take: boolean,
): Promise<AnswerState | undefined> {
  return db.transaction(async (tx) => {
    const row = await lockUndecided(tx, id, form.id);
    if (row === undefined) return undefined;
    const state = take ? "accepted" : "refused";
    await settle(tx, form, url, row, state, row.why);
    await markDecided(tx, by.name, id);
    const token = await makeLink(tx, {
      purpose: "sign-up",
      address: row.address,
      about: form.id,
      hours: FAMILY_HOURS,
    });
    await sendFamilyNote(tx, { name: row.answer.name, address: row.address }, () =>
      decidedAnswerNote(toldOf(form, row, `${url}/f/mine/${token}`), take),
    );
    await record(tx, {
      actorId: by.id,
      actor: by.name,
      action: take ? "take answer" : "refuse answer",
      sentence: () =>
        t("forms.decidedOnAnAnswer", {
          by: by.name,
          taken: take,
          guardian: row.answer.name,
          child: `${row.answer.given} ${row.answer.family}`.trim(),
        }),
      after: { form: form.id, answer: id, why: row.why },
    });
    await notify(tx, "forms");
    return state;
  });
}

function toldOf(
  form: LoadedForm,
  { answer, language }: { answer: Answer; language: string },
  url: string,
): AnswerTold {
  return {
    house: form.house,
    title: wordsIn(form.content, language).title,
    child: `${answer.given} ${answer.family}`,
    url,
  };
}

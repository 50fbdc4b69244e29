import { holdLock } from "../db/holdLock";
import { Refused } from "../refused";
import { say } from "@amigo/language/say";
import Papa from "papaparse";
import { answersSheet } from "@amigo/core/forms/answersSheet";
import { wordsIn } from "@amigo/core/forms/form";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { type LoadedForm, findForm } from "./queries";
import { describeFailure } from "../describeFailure";
import { t } from "../texts/t";
import { listForSheet, changedForms } from "./answerQueries";
import { markRead, markUnread, applyHowOften } from "./answerChangeQueries";

/** Any number that no other lock in this database begins with: one reading at a time for each form, on any worker. */
const FORM_LOCK = 7_205;

/**
 * Reads the answers of every form of the current season in which something has changed: those that count are the rows of its
 * sheet, and what follows from them waits in the round, or is carried out by itself where the form may do so.
 */
export async function readForms(context: Context): Promise<void> {
  const { db } = context;
  await applyHowOften(db);
  for (const { id, sourceId, mark, seen } of await changedForms(db))
    await holdLock(context.connection.pool, FORM_LOCK, id, () =>
      readForm(context, id, sourceId, { ...seen, answers: mark }),
    );
}

async function readForm(
  context: Context,
  id: string,
  sourceId: string,
  seen: Record<string, string>,
): Promise<void> {
  const { db, desk } = context;
  const form = await findForm(db, id);
  if (form === undefined) return;
  try {
    const { text, plan } = await sheetOf(db, form);
    const title = wordsIn(form.content, "").title;
    const read = await desk.run("readFile", {
      actor: { id: null, name: `Amigo (from the form "${title}")` },
      into: { id: sourceId },
      file: {
        name: `${form.slug}.csv`,
        bytes: new TextEncoder().encode(`\uFEFF${text}`),
        plan,
        writtenAt: new Date().toISOString(),
      },
      byItself: form.mode === "itself",
    });
    if (read instanceof Refused) await markUnread(db, say(read.detail), sourceId);
    else await markRead(db, seen, sourceId);
  } catch (failure) {
    context.log.error(
      { failure: describeFailure(failure), form: id },
      "the answers of a form could not be read",
    );
    await markUnread(db, t("forms.somethingInAmigoFailedWhile"), sourceId);
  }
  await applyHowOften(db);
  await notify(db, "sources");
}

/** The answers that count as a sheet, oldest first. */
async function sheetOf(db: Queries, form: LoadedForm) {
  const rows = await listForSheet(db, form.timeZone, form.id);
  const { rows: cells, plan } = answersSheet(
    form.content,
    rows.map(({ second, ...row }) => ({ ...row, second: second !== null })),
    say,
  );
  return { text: Papa.unparse(cells, { newline: "\r\n" }), plan };
}

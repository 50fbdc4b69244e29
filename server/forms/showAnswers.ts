import { and, eq, sql, type SQL } from "drizzle-orm";
import type { getAnswers, getOlderAnswers, AnswerLine } from "@amigo/contract/forms";
import { fold } from "@amigo/core/text/fold";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { formAnswer } from "../db/schema/forms";
import { orRefuse, refuse, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import {
  countAnswers,
  listAnswersBy,
  findAnswer,
  listReplaced,
  countReplaced,
  formOfAnswer,
} from "./answerQueries";
import { loadVisibleForm } from "./loadVisibleForm";

/** Returns a page of the answers to a form. */
export async function showAnswers(
  { db }: Context,
  { params, query, caller }: Request<typeof getAnswers>,
): Promise<Answer<typeof getAnswers>> {
  const form = orRefuse(await loadVisibleForm(db, params.id, caller));
  const where = and(eq(formAnswer.formId, form.id), stateIs(query.state), wordsAre(query.q));
  const count = await countAnswers(db, where);
  const rows = await listAnswersBy(db, where, query.sort, query.from);
  return { total: count?.total ?? 0, answers: await lines(db, rows) };
}

/** Returns the older answers that a newer one replaces, newest first. */
export async function showOlderAnswers(
  { db }: Context,
  { params, caller }: Request<typeof getOlderAnswers>,
): Promise<Answer<typeof getOlderAnswers>> {
  refuse(await loadVisibleForm(db, (await formOfAnswer(db, params.id)) ?? params.id, caller));
  const answer = await findAnswer(db, params.id);
  if (answer === undefined) throw notFound("answer");
  return lines(db, await listReplaced(db, answer.formId, answer.child, answer.number));
}

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
  const { rows: counts } = await countReplaced(db, first.formId, rows);
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
      older:
        state === "replaced"
          ? 0
          : (counts.find((candidate) => candidate.child === child)?.count ?? 0),
      decidedBy,
    }),
  );
}

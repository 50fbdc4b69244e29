import type { getQuestions, postAnswer } from "@amigo/contract/people";
import { say } from "@amigo/language/say";
import { actorOf } from "../callers/caller";
import type { Context } from "../context";
import { orRefuse, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { describeOrigins } from "../facts/describeOrigins";
import { listOpenQuestions, findOpenQuestion } from "./manualQueries";

/** Returns what only a person can settle. */
export async function listQuestions(
  { db }: Context,
  { caller }: Request<typeof getQuestions>,
): Promise<Answer<typeof getQuestions>> {
  const rows = await listOpenQuestions(db, caller);
  const describe = await describeOrigins(
    db,
    rows.flatMap(({ sides }) => sides.flatMap(({ where }) => where ?? [])),
  );
  return rows.map(({ key, kind, about, sides, choices, meanwhile }) => ({
    key,
    kind,
    about,
    meanwhile,
    choices: choices.map(({ id, label }) => ({ id, label: say(label) })),
    sides: sides.map(({ title, lines, where }) => {
      const at = where === undefined ? undefined : describe(where);
      return {
        title: say(title),
        lines: lines.map(say),
        where: at?.text ?? "",
        source: at?.source ?? null,
      };
    }),
  }));
}

/** Answers a question; it is not asked again. */
export async function answerOne(
  { db, desk }: Context,
  { body, caller }: Request<typeof postAnswer>,
): Promise<Answer<typeof postAnswer>> {
  const mine = await findOpenQuestion(db, caller, body.key);
  if (mine === undefined && caller.role !== "coordinator") throw notFound("question");
  return orRefuse(await desk.run("answerQuestion", { actor: actorOf(caller), ...body }));
}

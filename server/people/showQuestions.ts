import { asc, and, eq, type SQL, sql } from "drizzle-orm";
import { type getQuestions, type postAnswer } from "@amigo/contract/people";
import { say } from "@amigo/language/say";
import { actorOf, type Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { question } from "../db/schema/people";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { peopleOf } from "../membership/scope";
import { describeOrigins } from "../readings/origins";
import { currentSeason } from "./currentSeason";

export async function listQuestions(
  { db }: Context,
  { caller }: Request<typeof getQuestions>,
): Promise<Answer<typeof getQuestions>> {
  const rows = await db
    .select()
    .from(question)
    .where(await askedOf(db, caller))
    .orderBy(asc(question.position))
    .limit(500);
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

export async function answerOne(
  { db, desk }: Context,
  { body, caller }: Request<typeof postAnswer>,
): Promise<Answer<typeof postAnswer>> {
  const [mine] = await db
    .select({ key: question.key })
    .from(question)
    .where(and(await askedOf(db, caller), eq(question.key, body.key)));
  if (mine === undefined && caller.role !== "coordinator") throw notFound("question");
  return desk.run("answerQuestion", { actor: actorOf(caller), ...body });
}

/** The open questions about people whom the asker sees. */
async function askedOf(db: Queries, caller: Caller): Promise<SQL | undefined> {
  const seasonId = await currentSeason(db);
  const within = peopleOf(caller, seasonId);
  return and(
    eq(question.seasonId, seasonId),
    within === undefined ? undefined : sql`${question.subject} in ${within}`,
  );
}

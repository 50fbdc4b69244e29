import { type SQL, sql, and, eq, isNull, desc, asc } from "drizzle-orm";
import type { Answered } from "@amigo/core/identity/question";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { byHand, question } from "../db/schema/people";
import { peopleOf } from "../membership/scope";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** Lists whether any of some people is outside those whom somebody may know. */
export function listUnseen(db: Queries, ids: readonly string[], seen: SQL) {
  return db.execute(
    sql`select 1 from json_array_elements_text(${JSON.stringify(ids)}::json) as meant(id) where id not in ${seen}`,
  );
}

/** Lists what was settled by hand in a season, about people whom one may know. */
export function listManual(db: Queries, seasonId: number, within: SQL<unknown> | undefined) {
  return db
    .select()
    .from(byHand)
    .where(
      and(
        eq(byHand.seasonId, seasonId),
        isNull(byHand.endedAt),
        within === undefined
          ? undefined
          : sql`(${byHand.settled}->>'subject' in ${within} or exists (select 1 from regexp_split_to_table(${byHand.key}, '\s+') as word where word in ${within}))`,
      ),
    )
    .orderBy(desc(byHand.at))
    .limit(500);
}

/** Returns an open question of a season, or undefined. */
export async function findQuestion(db: Queries, seasonId: number, key: string) {
  const [found] = await db
    .select()
    .from(question)
    .where(and(eq(question.seasonId, seasonId), eq(question.key, key)));
  return found;
}

/** Ends something settled by hand, and returns it. */
export async function endManual(db: Queries, id: number) {
  const [found] = await db
    .update(byHand)
    .set({ endedAt: sql`now()` })
    .where(and(eq(byHand.id, id), isNull(byHand.endedAt)))
    .returning();
  return found;
}

/** Ends what was settled by hand about the same thing before. */
export async function endManualOf(db: Queries, seasonId: number, key: string): Promise<void> {
  await db
    .update(byHand)
    .set({ endedAt: sql`now()` })
    .where(and(eq(byHand.seasonId, seasonId), eq(byHand.key, key), isNull(byHand.endedAt)));
}

/** Stores what somebody has settled by hand. */
export async function storeManual(
  db: Queries,
  seasonId: number,
  key: string,
  answer: Answered,
  sentence: string,
  by: string,
): Promise<void> {
  await db.insert(byHand).values({
    seasonId,
    key,
    what: answer.does,
    links: answer.does === "link" ? answer.links : [],
    settled: answer.does === "settle" ? answer.settled : null,
    sentence,
    by,
  });
}

/** Lists the open questions about people whom somebody may know. */
export async function listOpenQuestions(db: Queries, caller: Caller) {
  return db
    .select()
    .from(question)
    .where(await askedOf(db, caller))
    .orderBy(asc(question.position))
    .limit(500);
}

/** The open questions about people whom the asker sees. */
async function askedOf(db: Queries, caller: Caller): Promise<SQL | undefined> {
  const seasonId = (await needCurrentSeason(db)).id;
  const within = peopleOf(caller, seasonId);
  return and(
    eq(question.seasonId, seasonId),
    within === undefined ? undefined : sql`${question.subject} in ${within}`,
  );
}

/** Returns an open question if it is about people whom somebody may know. */
export async function findOpenQuestion(db: Queries, caller: Caller, key: string) {
  const [found] = await db
    .select({ key: question.key })
    .from(question)
    .where(and(await askedOf(db, caller), eq(question.key, key)));
  return found;
}

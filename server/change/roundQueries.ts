import { longLimits } from "../db/timeLimits";
import { and, eq, sql } from "drizzle-orm";
import type { Question } from "@amigo/core/identity/question";
import { said } from "@amigo/language/say";
import type { Queries } from "../db/connect";
import { season } from "../db/schema/house";
import { question } from "../db/schema/people";
import { round, type RoundTotals, roundList } from "../db/schema/rounds";

/** Rounds are opened, decided and carried out one at a time; this lock orders them in the database. */
export const ROUND_LOCK = 7_204_118;

/** Returns the open round of a season. */
export async function findOpenOf(db: Queries, seasonId: number) {
  const [found] = await db
    .select({ number: round.number, seasonId: round.seasonId, version: round.version })
    .from(round)
    .where(and(eq(round.state, "open"), eq(round.seasonId, seasonId)));
  return found;
}

/** Returns the open round. */
export async function findOpenRound(db: Queries) {
  const [found] = await db
    .select({
      number: round.number,
      version: round.version,
      totals: round.totals,
      guards: round.guards,
    })
    .from(round)
    .where(eq(round.state, "open"));
  return found;
}

/** Stores from what the facts of a season were derived. */
export async function storeDerivedFrom(
  db: Queries,
  derivedFrom: string,
  seasonId: number,
): Promise<void> {
  await db.update(season).set({ derivedFrom }).where(eq(season.id, seasonId));
}

/** Closes a round of which nothing is left. */
export async function dropRound(db: Queries, number: number): Promise<void> {
  await db
    .update(round)
    .set({ state: "dropped", closedAt: sql`clock_timestamp()` })
    .where(eq(round.number, number));
}

/** Stores that the open round was made again, and from which imports. */
export async function renewOpenRound(
  db: Queries,
  version: number,
  readings: readonly { id: string }[],
  number: number,
): Promise<void> {
  await db
    .update(round)
    .set({
      version: version + 1,
      readings: readings.map(({ id }) => id),
      openedAt: sql`now()`,
    })
    .where(eq(round.number, number));
}

/** Opens a round, and returns its number. */
export async function storeOpenRound(
  db: Queries,
  seasonId: number,
  totals: RoundTotals,
  readings: readonly { id: string }[],
) {
  const [found] = await db
    .insert(round)
    .values({
      seasonId,
      state: "open",
      totals,
      guards: [],
      readings: readings.map(({ id }) => id),
    })
    .returning({ number: round.number });
  return found;
}

/** Removes the questions of a season. */
export async function removeQuestions(db: Queries, seasonId: number): Promise<void> {
  await db.delete(question).where(eq(question.seasonId, seasonId));
}

/** Stores some of the questions of a season. */
export async function storeQuestionRows(
  db: Queries,
  questions: readonly Question[],
  at: number,
  seasonId: number,
): Promise<void> {
  await db
    .insert(question)
    .values(
      questions
        .slice(at, at + 500)
        .map((eachQuestion, index) => ({ seasonId, position: at + index, ...said(eachQuestion) })),
    );
}

/** Raises the version of a round. */
export async function storeNextVersion(
  db: Queries,
  version: number,
  number: number,
): Promise<void> {
  await db
    .update(round)
    .set({ version: version + 1 })
    .where(eq(round.number, number));
}

/** Removes by how much lists differ in a round. */
export async function removeRoundLists(db: Queries, number: number): Promise<void> {
  await db.delete(roundList).where(eq(roundList.round, number));
}

/** Stores a round that was carried out, and returns its number. */
export async function storeRound(
  db: Queries,
  seasonId: number,
  totals: RoundTotals,
  by: string | null,
  name: string,
  takesBack: number | undefined,
  leftAlone: string[] | undefined,
  opensAfter: number | undefined,
) {
  const [found] = await db
    .insert(round)
    .values({
      seasonId,
      state: "done",
      totals,
      guards: [],
      readings: sql`coalesce((select readings from round where state = 'done' and season_id = ${seasonId} order by number desc limit 1), '{}')`,
      closedAt: sql`clock_timestamp()`,
      closedBy: by,
      closedByName: by === null ? name : "",
      takesBack: takesBack ?? null,
      leftAlone: leftAlone ?? [],
      opensAfter: opensAfter ?? null,
    })
    .returning({ number: round.number });
  return found;
}

/** Stores by how much lists differ in a round. */
export async function storeRoundLists(
  db: Queries,
  differences: (typeof roundList.$inferInsert)[],
  at: number,
): Promise<void> {
  await db.insert(roundList).values(differences.slice(at, at + 5000));
}

/**
 * Lets nobody else change facts, rounds and members until the transaction ends, which may take long.
 *
 * @param patience for how long others are waited for, in PostgreSQL's notation, where it isn't the usual time
 */
export async function lockRounds(tx: Queries, patience?: string): Promise<void> {
  await tx.execute(sql`${longLimits(patience)}, pg_advisory_xact_lock(${ROUND_LOCK})`);
}

/**
 * Says that one change of facts, just made, was already taken into account: what was derived before it still goes
 * with what is there. Where something else had changed as well, or the day, the next look derives again.
 */
export async function keepDerived(tx: Queries, seasonId: number): Promise<void> {
  await tx
    .update(season)
    .set({ derivedFrom: sql`${season.version} || substring(${season.derivedFrom} from ' .*$')` })
    .where(
      and(
        eq(season.id, seasonId),
        sql`split_part(${season.derivedFrom}, ' ', 1) = (${season.version} - 1)::text`,
      ),
    );
}

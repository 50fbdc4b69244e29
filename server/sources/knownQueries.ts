import { sql, and, eq, isNull } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { fact } from "../db/schema/people";
import { heldAt } from "../facts/queries";

/** The most people of a kind that are given: enough to tell by them what a column holds, and few enough to be quick. */
export const MOST_PEOPLE = 3_000;

/** Lists the students' numbers. */
export function listNumbers(db: Queries, seasonId: number) {
  return db
    .select({ number: sql<string>`${fact.value}#>>'{}'` })
    .from(fact)
    .where(and(eq(fact.seasonId, seasonId), eq(fact.kind, "number"), heldAt(undefined)))
    .limit(MOST_PEOPLE);
}

/** Lists the names of the classes and so on. */
export function listCohortNames(db: Queries, seasonId: number) {
  return db
    .selectDistinct({
      name: sql<string>`${fact.value}->>'name'`,
      kind: sql<string>`${fact.value}->>'kind'`,
    })
    .from(fact)
    .where(and(eq(fact.seasonId, seasonId), eq(fact.kind, "cohort"), heldAt(undefined)));
}

/** Lists the names of all accounts. */
export function listAccountNames(db: Queries) {
  return db.select({ name: account.name }).from(account);
}

/** The names of the students or guardians of a season. */
export async function namesOf(
  db: Queries,
  seasonId: number,
  role: "student" | "guardian",
): Promise<{ given: string; family: string }[]> {
  const foundAlias = alias(fact, "own");
  return db
    .select({
      given: sql<string>`${fact.value}->>'given'`,
      family: sql<string>`${fact.value}->>'family'`,
    })
    .from(foundAlias)
    .innerJoin(
      fact,
      and(
        eq(fact.seasonId, foundAlias.seasonId),
        eq(fact.subject, foundAlias.subject),
        eq(fact.kind, "name"),
        heldAt(undefined),
      ),
    )
    .where(
      and(
        eq(foundAlias.seasonId, seasonId),
        eq(foundAlias.kind, role),
        isNull(foundAlias.validUntil),
      ),
    )
    .limit(MOST_PEOPLE);
}

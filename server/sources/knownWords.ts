import { and, eq, isNull, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { z } from "zod";
import type { getKnownWords } from "@amigo/contract/sources";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { Queries } from "../db/connect";
import { heldAt } from "../facts/queries";
import { latestReadings } from "../readings/queries";
import { season, site } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { fact } from "../db/schema/people";

/** The most titles that are given; those of the newest sources are kept. */
const MOST_TITLES = 2000;
/** A column that wasn't used may hold anything. */
const TELLS_NOTHING: ReadonlySet<MeaningId> = new Set<MeaningId>(["unread"]);

/** The most people of a kind that are given: enough to tell by them what a column holds, and few enough to be quick. */
const MOST_PEOPLE = 3_000;

type Words = z.output<typeof getKnownWords.answer>;

/** What the house knows before it looks at a sheet: titles that were read before, its classes, teams, sites and people. */
export async function knownWords(db: Queries): Promise<Words> {
  const [current] = await db.select({ id: season.id }).from(season).where(eq(season.current, true));
  if (current === undefined)
    return {
      titles: [],
      classes: [],
      teams: [],
      sites: [],
      staff: [],
      people: { students: [], guardians: [], numbers: [] },
    };
  const [students, guardians, numbers, readings, cohorts, sites, staff] = await Promise.all([
    namesOf(db, current.id, "student"),
    namesOf(db, current.id, "guardian"),
    db
      .select({ number: sql<string>`${fact.value}#>>'{}'` })
      .from(fact)
      .where(and(eq(fact.seasonId, current.id), eq(fact.kind, "number"), heldAt(undefined)))
      .limit(MOST_PEOPLE),
    latestReadings(db, current.id),
    db
      .selectDistinct({
        name: sql<string>`${fact.value}->>'name'`,
        kind: sql<string>`${fact.value}->>'kind'`,
      })
      .from(fact)
      .where(and(eq(fact.seasonId, current.id), eq(fact.kind, "cohort"), heldAt(undefined))),
    db.select({ name: site.name, code: site.code }).from(site),
    db.select({ name: account.name }).from(account),
  ]);
  const named = (kind: string): string[] =>
    cohorts.filter((own) => own.kind === kind).map(({ name }) => name);
  return {
    titles: readings
      .flatMap(({ plan }) => plan.columns)
      .filter(({ title, meaning }) => title !== "" && !TELLS_NOTHING.has(meaning))
      .map(({ title, meaning }) => ({ title, meaning }))
      .slice(-MOST_TITLES),
    classes: named("class"),
    teams: named("team"),
    sites: sites.flatMap(({ name, code }) => [name, code]),
    staff: staff.map(({ name }) => name),
    people: { students, guardians, numbers: numbers.map(({ number }) => number) },
  };
}

/** The names of the students or guardians of a season. */
async function namesOf(
  db: Queries,
  seasonId: number,
  role: "student" | "guardian",
): Promise<{ given: string; family: string }[]> {
  const own = alias(fact, "own");
  return db
    .select({
      given: sql<string>`${fact.value}->>'given'`,
      family: sql<string>`${fact.value}->>'family'`,
    })
    .from(own)
    .innerJoin(
      fact,
      and(
        eq(fact.seasonId, own.seasonId),
        eq(fact.subject, own.subject),
        eq(fact.kind, "name"),
        heldAt(undefined),
      ),
    )
    .where(and(eq(own.seasonId, seasonId), eq(own.kind, role), isNull(own.validUntil)))
    .limit(MOST_PEOPLE);
}

import { type SQL, and, arrayContains, arrayOverlaps, eq, gt, inArray, sql } from "drizzle-orm";
import { CLASSES, type CauseChoice } from "@amigo/contract/causes";
import type { Queries } from "../db/connect";
import { cause } from "../db/schema/rounds";
import { source } from "../db/schema/sources";
import { KINDS_BY_CLASS, type OutlineCount } from "./outline";

/** More students than this make a round that is read by class, as a first import is. */
const MANY = 24;

/** Lists the accepted causes of a round that were chosen. */
export function listChosenCauses(db: Queries, number: number, isChosen: SQL) {
  return db
    .select()
    .from(cause)
    .where(and(eq(cause.round, number), eq(cause.decision, "accepted"), isChosen))
    .orderBy(cause.position);
}

/** Removes the accepted causes of a round that were not chosen. */
export async function removeOtherCauses(db: Queries, number: number, isChosen: SQL): Promise<void> {
  await db
    .delete(cause)
    .where(and(eq(cause.round, number), eq(cause.decision, "accepted"), sql`not ${isChosen}`));
}

/** Whether a round is read by class, as a first import is: many students join, and some of them a class. */
export async function isReadByClass(db: Queries, round: number): Promise<boolean> {
  const joined = and(eq(cause.round, round), eq(cause.kind, "joined"));
  const [found] = await db
    .select({
      joined: sql<number>`count(*)::int`,
      some: sql<boolean>`bool_or(${cause.group} <> '')`,
    })
    .from(cause)
    .where(joined);
  return found !== undefined && found.joined > MANY && found.some;
}

/** Counts the guardians who come onto a list with the students who join, by class. */
export function countGuardiansJoined(db: Queries, round: number) {
  return db.execute<{ name: string; guardians: number }>(sql`
    select "group" as name,
      count(distinct change->>'person') filter (
        where change->>'kind' = 'joins' and change->>'person' <> subject
      )::int as guardians
    from ${cause} left join lateral json_array_elements(changes::json) change on true
    where ${cause.round} = ${round} and ${cause.kind} = 'joined' and "group" <> ''
    group by "group"`);
}

/** Which causes of a round are meant. */
export interface ChosenCauses extends CauseChoice {
  number: number;
  decision?: "accepted" | "held" | undefined;
}

function isMeant({ number, list, group, kind, source: name, section, decision }: ChosenCauses) {
  return and(
    eq(cause.round, number),
    list === undefined ? undefined : arrayContains(cause.lists, [list]),
    group === undefined ? undefined : eq(cause.group, group),
    kind === undefined ? undefined : sql`${cause.kind} = ${kind}`,
    name === undefined
      ? undefined
      : arrayOverlaps(
          cause.sources,
          sql`(select coalesce(array_agg(${source.id}::text), '{}') from ${source} where ${source.name} = ${name})`,
        ),
    section === undefined
      ? undefined
      : section === CLASSES
        ? inArray(cause.kind, [...KINDS_BY_CLASS])
        : sql`${cause.kind} = ${section}`,
    decision === undefined ? undefined : eq(cause.decision, decision),
  );
}

/** Stores a decision on the causes of a round that a choice means. */
export async function decideChosen(
  db: Queries,
  decision: "held" | "accepted",
  chosen: ChosenCauses,
): Promise<void> {
  await db.update(cause).set({ decision }).where(isMeant(chosen));
}

/** Stores a decision on causes of a round, by their keys, and returns how many of them are there. */
export async function decideByKeys(
  db: Queries,
  decision: "held" | "accepted",
  keys: readonly string[],
  number: number,
): Promise<number> {
  const { rowCount } = await db.execute(
    sql`update cause set decision = ${decision} from json_array_elements_text(${JSON.stringify(keys)}::json) as chosen(key) where cause.round = ${number} and cause.key = chosen.key`,
  );
  return rowCount ?? 0;
}

/** Counts the causes that a choice means by kind and class, in the order in which the first of each comes. */
export async function countCauses(db: Queries, chosen: ChosenCauses): Promise<OutlineCount[]> {
  const sum = (what: SQL) => sql<number>`sum(${what})::int`;
  return db
    .select({
      kind: cause.kind,
      name: cause.group,
      count: sql<number>`count(*)::int`,
      accepted: sql<number>`(count(*) filter (where ${cause.decision} = 'accepted'))::int`,
      unreachable: sql<number>`(count(*) filter (where ${cause.unreachable}))::int`,
      joins: sum(sql`${cause.joins}`),
      leaves: sum(sql`${cause.leaves}`),
      replaced: sum(sql`${cause.replaced}`),
    })
    .from(cause)
    .where(isMeant(chosen))
    .groupBy(cause.kind, cause.group)
    .orderBy(sql`min(${cause.position})`);
}

/** Counts the causes of a round. */
export async function countAllCauses(db: Queries, number: number): Promise<number> {
  const [found] = await db
    .select({ count: sql<number>`count(*)::int` })
    .from(cause)
    .where(eq(cause.round, number));
  return found?.count ?? 0;
}

/** Lists what the causes of a round can be chosen by: their kinds and classes, and the ids of the sources. */
export async function listCauseTraits(db: Queries, number: number) {
  const ofRound = eq(cause.round, number);
  const kinds = await db
    .select({ kind: cause.kind })
    .from(cause)
    .where(ofRound)
    .groupBy(cause.kind)
    .orderBy(sql`min(${cause.position})`);
  const groups = await db
    .selectDistinct({ name: cause.group })
    .from(cause)
    .where(and(ofRound, sql`${cause.group} <> ''`));
  const sources = await db
    .selectDistinct({ id: sql<string>`unnest(${cause.sources})` })
    .from(cause)
    .where(ofRound);
  return {
    kinds: kinds.map(({ kind }) => kind),
    groups: groups.map(({ name }) => name),
    sources: sources.map(({ id }) => id),
  };
}

/** Lists what a round adds to the classes and so on. */
export function listCohortCauses(db: Queries, round: number) {
  return db
    .select({ adds: cause.adds })
    .from(cause)
    .where(and(eq(cause.round, round), eq(cause.kind, "cohort")));
}

/** Lists the keys of the lists that a round touches. */
export function listTouchedKeys(db: Queries, round: number) {
  return db.execute<{ key: string }>(
    sql`select distinct unnest(${cause.lists}) as key from ${cause} where ${cause.round} = ${round}`,
  );
}

/** Returns a cause of a round. */
export async function findCause(db: Queries, number: number, position: number) {
  const [found] = await db
    .select()
    .from(cause)
    .where(and(eq(cause.round, number), eq(cause.position, position)));
  return found;
}

/** Lists the causes that a choice means, as they are shown: those after a position, up to a limit. */
export function listShownCauses(
  db: Queries,
  chosen: ChosenCauses,
  after: number | undefined,
  limit: number,
) {
  return db
    .select({
      position: cause.position,
      key: cause.key,
      kind: cause.kind,
      title: cause.title,
      detail: cause.detail,
      group: cause.group,
      unreachable: cause.unreachable,
      decision: cause.decision,
      joins: cause.joins,
      leaves: cause.leaves,
      replaced: cause.replaced,
      lists: sql<number>`cardinality(${cause.lists})`,
    })
    .from(cause)
    .where(and(isMeant(chosen), after === undefined ? undefined : gt(cause.position, after)))
    .orderBy(cause.position)
    .limit(limit);
}

/** Lists what was decided on the causes of a round. */
export function listDecisions(db: Queries, number: number) {
  return db
    .select({ position: cause.position, sources: cause.sources, decision: cause.decision })
    .from(cause)
    .where(eq(cause.round, number));
}

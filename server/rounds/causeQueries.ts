import { type SQL, and, eq, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { cause } from "../db/schema/rounds";

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

/** Counts who has joined by class, where many have. */
export function countClassesJoined(db: Queries, round: number) {
  return db.execute<{ name: string; students: number; guardians: number }>(sql`
    with many as (
      select 1 from ${cause} where ${cause.round} = ${round} and ${cause.kind} = 'joined'
      having count(*) > ${MANY}
    )
    select "group" as name,
      count(distinct subject)::int as students,
      count(distinct change->>'person') filter (
        where change->>'kind' = 'joins' and change->>'person' <> subject
      )::int as guardians
    from many, ${cause} left join lateral json_array_elements(changes::json) change on true
    where ${cause.round} = ${round} and ${cause.kind} = 'joined' and "group" <> ''
    group by "group" order by "group"`);
}

/** Stores a decision on causes of a round. */
export async function storeDecisions(
  db: Queries,
  decision: "held" | "accepted",
  causes: readonly number[],
  number: number,
): Promise<void> {
  await db.execute(
    sql`update cause set decision = ${decision} from json_array_elements_text(${JSON.stringify(causes)}::json) as chosen(position) where cause.round = ${number} and cause.position = chosen.position::int`,
  );
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

/** Lists the causes of a round as its page shows them. */
export function listShownCauses(db: Queries, number: number) {
  return db
    .select({
      position: cause.position,
      kind: cause.kind,
      title: cause.title,
      detail: cause.detail,
      group: cause.group,
      unreachable: cause.unreachable,
      decision: cause.decision,
      joins: cause.joins,
      leaves: cause.leaves,
      replaced: cause.replaced,
      listKeys: cause.lists,
      sources: cause.sources,
    })
    .from(cause)
    .where(eq(cause.round, number))
    .orderBy(cause.position);
}

/** Lists what was decided on the causes of a round. */
export function listDecisions(db: Queries, number: number) {
  return db
    .select({ position: cause.position, sources: cause.sources, decision: cause.decision })
    .from(cause)
    .where(eq(cause.round, number));
}

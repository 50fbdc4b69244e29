import { type SQL, and, eq, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { cause, round } from "../db/schema/rounds";

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

/** Lists the causes of a round about a subject. */
export function listCausesAbout(db: Queries, number: number, subject: string) {
  return db
    .select({ position: cause.position })
    .from(cause)
    .where(and(eq(cause.round, number), eq(cause.subject, subject)))
    .limit(1);
}

/** Removes the causes of a round. */
export async function removeCauses(db: Queries, number: number): Promise<void> {
  await db.delete(cause).where(eq(cause.round, number));
}

/** Lists what was decided on causes in rounds that were carried out. */
export function listDecidedBefore(db: Queries, seasonId: number) {
  return db.execute<{
    key: string;
    history: string;
    round: number;
    by: string;
    undone: boolean;
  }>(sql`
    with done as (
      select round.number, round.takes_back, round.closed_at, coalesce(account.name, round.closed_by_name) as by
      from round left join account on account.id = round.closed_by
      where round.state = 'done' and round.season_id = ${seasonId}),
    held as (
      select cause.key, cause.history, done.number, done.by, done.closed_at, false as undone
      from cause join done on done.number = cause.round where cause.decision = 'held'
      union all
      select cause.key, cause.history, done.number, done.by, done.closed_at, true
      from done join cause on cause.round = done.takes_back and cause.decision = 'accepted')
    select held.key, held.history, held.number as round, held.by, held.undone
    from held
    where not exists (
      select 1 from cause join done on done.number = cause.round
      where cause.key = held.key and cause.decision = 'accepted' and done.takes_back is null
        and (done.closed_at, done.number) > (held.closed_at, held.number))
    order by held.closed_at, held.number`);
}

/** Lists what was decided on the causes of the open round. */
export function listDecidedNow(db: Queries) {
  return db
    .select({ key: cause.key, decision: cause.decision, history: cause.history })
    .from(cause)
    .innerJoin(round, eq(round.number, cause.round))
    .where(eq(round.state, "open"));
}

/** Lists the causes of a round with what they change. */
export function listCauses(db: Queries, number: number) {
  return db
    .select({
      position: cause.position,
      key: cause.key,
      kind: cause.kind,
      subject: cause.subject,
      title: cause.title,
      detail: cause.detail,
      sentence: cause.sentence,
      group: cause.group,
      adds: cause.adds,
      removes: cause.removes,
      decision: cause.decision,
    })
    .from(cause)
    .where(eq(cause.round, number))
    .orderBy(cause.position);
}

/** Stores the list updates of the causes of a round. */
export async function storeListUpdates(
  db: Queries,
  updates: readonly unknown[],
  number: number,
): Promise<void> {
  await db.execute(sql`
    update cause set changes = new.changes, joins = new.joins, leaves = new.leaves, replaced = new.replaced, lists = coalesce(string_to_array(nullif(new.lists, ''), chr(10)), '{}')
    from json_to_recordset(${JSON.stringify(updates)}::json) as new(position int, changes text, joins int, leaves int, replaced int, lists text)
    where cause.round = ${number} and cause.position = new.position and cause.changes <> new.changes`);
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

/** Stores some of the causes of a round. */
export async function storeCauses(
  db: Queries,
  causes: (typeof cause.$inferInsert)[],
  at: number,
): Promise<void> {
  await db.insert(cause).values(causes.slice(at, at + 1000));
}

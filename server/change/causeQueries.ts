import { and, eq, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { cause, round } from "../db/schema/rounds";

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

/** Lists the causes of a round, each with a hash of what it changes as that is written down. */
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
      hash: sql<string>`md5(${cause.changes})`,
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
    where cause.round = ${number} and cause.position = new.position`);
}

/** Stores some of the causes of a round. */
export async function storeCauseRows(
  db: Queries,
  causes: (typeof cause.$inferInsert)[],
  at: number,
): Promise<void> {
  await db.insert(cause).values(causes.slice(at, at + 1000));
}

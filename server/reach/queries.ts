import { type SQL, sql, eq, and, isNull, inArray } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { addressTrouble } from "../db/schema/deliveries";
import { house } from "../db/schema/house";
import { fact } from "../db/schema/people";
import { factColumns } from "../facts/queries";

const MOST_TROUBLES = 1000;

const WEEKS = 12;

/** Stores who has paused all sending, or that it goes on. */
export async function storeQueuePaused(db: Queries, paused: boolean, by: string): Promise<void> {
  await db.update(house).set({ queuePausedBy: paused ? by : "" });
}

/** Returns an address if it is of somebody whom one may know. */
export async function findKnownAddress(db: Queries, address: string, known: SQL) {
  const [found] = await db
    .select({ id: fact.id })
    .from(fact)
    .where(
      sql`${fact.kind} = 'address' and ${fact.ref} = ${address} and ${fact.validUntil} is null and ${fact.subject} in ${known}`,
    )
    .limit(1);
  return found;
}

/** Counts the mails that wait, that are tried again, and that were sent or came back today. */
export function countQueue(db: Queries) {
  return db.execute<{
    waiting: number;
    deferred: number;
    sent: number;
    bounced: number;
    oldest: Date | string | null;
  }>(sql`
      select count(*) filter (where state in ('queued', 'sending'))::int as waiting, count(*) filter (where state = 'deferred')::int as deferred,
        (select count(*)::int from delivery where sent_at > now() - interval '1 day') as sent, (select count(*)::int from bounce where at > now() - interval '1 day' and sort <> 'not a bounce') as bounced,
        min(created_at) as oldest from delivery where state in ('queued', 'sending', 'deferred')`);
}

/** Stores the house's settings for mail. */
export async function storeMailSettings(
  db: Queries,
  settings: Partial<typeof house.$inferInsert>,
): Promise<void> {
  await db.update(house).set(settings).where(eq(house.id, 1));
}

/** Lists the addresses to which mail is stopped or in doubt. */
export function listTroubles(db: Queries) {
  return db
    .select()
    .from(addressTrouble)
    .orderBy(addressTrouble.state, addressTrouble.lastAt)
    .limit(MOST_TROUBLES);
}

/** Counts the students of each week and how many of them could be reached: an address that has stopped counts as stopped since it first failed. */
export function countReachByWeek(db: Queries, seasonId: number, known: SQL) {
  // Who was a student, and who could be reached, is put together once, for all weeks, as the times for which it was so.
  return db.execute<{ day: string; students: number; reached: number }>(sql`
    with moments as (select now() - make_interval(weeks => back) as at from generate_series(0, ${WEEKS - 1}) back),
    enrolled as (
      select student.subject, range_agg(tstzrange(student.valid_from, student.valid_until)) as times
      from fact student where student.season_id = ${seasonId} and student.kind = 'student' ${known}
      group by student.subject),
    reached as (
      select tie.ref as subject, range_agg(tstzrange(tie.valid_from, tie.valid_until) * tstzrange(address.valid_from, ends.at)) as times
      from fact tie
        join fact address on address.season_id = ${seasonId} and address.kind = 'address' and address.subject = tie.subject
        left join address_trouble trouble on trouble.address = address.ref and trouble.state = 'stopped',
        lateral (select case when trouble.since is null then address.valid_until else greatest(address.valid_from, least(address.valid_until, trouble.since)) end as at) ends
      where tie.season_id = ${seasonId} and tie.kind = 'tie'
      group by tie.ref)
    select to_char(moments.at at time zone house.time_zone, 'YYYY-MM-DD') as day, count(*)::int as students, count(*) filter (where reached.times @> moments.at)::int as reached
    from moments cross join house join enrolled on enrolled.times @> moments.at left join reached on reached.subject = enrolled.subject
    group by moments.at, house.time_zone order by moments.at`);
}

/** Lists who has some addresses. */
export function listAddressFacts(db: Queries, seasonId: number, addresses: string[]) {
  return db
    .select(factColumns)
    .from(fact)
    .where(
      and(
        eq(fact.seasonId, seasonId),
        eq(fact.kind, "address"),
        isNull(fact.validUntil),
        inArray(fact.ref, addresses),
      ),
    );
}

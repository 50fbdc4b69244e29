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

/** Lists the ids of those whom somebody may know. */
export function listIds(db: Queries, known: SQL) {
  return db.execute<{ id: string }>(sql`select own.subject as id from ${known} as own(subject)`);
}

/** Counts the students of each week and how many of them could be reached: an address that has stopped counts as stopped since it first failed. */
export function countReachByWeek(db: Queries, seasonId: number, known: SQL) {
  return db.execute<{ day: string; students: number; reached: number }>(sql`
    with days as (select generate_series(0, ${WEEKS - 1}) as back), moments as (select now() - make_interval(weeks => back) as at from days)
    select to_char(moments.at at time zone house.time_zone, 'YYYY-MM-DD') as day, count(distinct student.subject)::int as students, count(distinct student.subject) filter (where address.subject is not null)::int as reached
    from moments cross join house join fact student on student.season_id = ${seasonId} and student.kind = 'student' and student.valid_from <= moments.at and (student.valid_until is null or student.valid_until > moments.at) ${known}
      left join fact tie on tie.season_id = ${seasonId} and tie.kind = 'tie' and tie.ref = student.subject and tie.valid_from <= moments.at and (tie.valid_until is null or tie.valid_until > moments.at)
      left join fact address on address.season_id = ${seasonId} and address.kind = 'address' and address.subject = tie.subject and address.valid_from <= moments.at and (address.valid_until is null or address.valid_until > moments.at)
        and not exists (select from address_trouble trouble where trouble.address = address.ref and trouble.state = 'stopped' and trouble.since <= moments.at)
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

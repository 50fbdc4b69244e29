import { inArray, sql, type SQL } from "drizzle-orm";
import type { Database, Queries } from "../db/connect";
import { delivery } from "../db/schema/deliveries";
import { PRIORITIES } from "../posting/noteQueries";

/** A copy that this worker has taken to deliver. */
export interface Claimed {
  id: number;
  messageId: string;
  postId: string | null;
  listId: string | null;
  address: string;
  token: string;
  attempts: number;
  priority: number;
  createdAt: Date;
  fields: Record<string, string> | null;
}

export interface ClaimLimits {
  most: number;
  claimSeconds: number;
  perMinute: number;
  domainPerMinute: number;
  /** Whether only what somebody waits for at this moment is wanted. */
  isUrgent: boolean;
}

/** The result of sending a copy. `pause` is in seconds until the next try. */
export type Outcome =
  | { id: number; state: "sent" | "bounced"; reply: string }
  | { id: number; state: "deferred"; reply: string; pause: number };

const WAITING = sql`${delivery.state} in ('queued', 'deferred', 'sending') and ${delivery.nextAt} <= now()
  and not exists (select 1 from house where queue_paused_by <> '') and (${delivery.postId} is null or ${delivery.postId} not in (select post.id from post where post.paused_by <> ''))`;

/**
 * Claims what is due, by priority and age. A claim is good for some seconds and is prolonged while its worker lives; then any
 * other may take it. No copy is claimed by two.
 */
export async function claim(
  db: Database,
  { most, claimSeconds, perMinute, domainPerMinute, isUrgent }: ClaimLimits,
): Promise<Claimed[]> {
  const wanted = isUrgent
    ? sql`${WAITING} and ${delivery.priority} <= ${PRIORITIES.link}`
    : WAITING;
  const allowed =
    perMinute === 0 && domainPerMinute === 0
      ? undefined
      : await withinRates(db, wanted, most, perMinute, domainPerMinute);
  if (allowed?.length === 0) return [];
  const due = db
    .select({ id: delivery.id })
    .from(delivery)
    .where(allowed === undefined ? wanted : sql`${wanted} and ${inArray(delivery.id, allowed)}`)
    .orderBy(delivery.priority, delivery.id)
    .limit(most)
    .for("update", { skipLocked: true });
  return db
    .update(delivery)
    .set({
      state: "sending",
      attempts: sql`${delivery.attempts} + 1`,
      nextAt: sql`now() + make_interval(secs => ${claimSeconds})`,
    })
    .where(inArray(delivery.id, due))
    .returning({
      id: delivery.id,
      messageId: delivery.messageId,
      postId: delivery.postId,
      listId: delivery.listId,
      address: delivery.address,
      token: delivery.token,
      attempts: delivery.attempts,
      priority: delivery.priority,
      createdAt: delivery.createdAt,
      fields: delivery.fields,
    });
}

/** Of what is due, what may still leave in this minute: in all, and to each domain. It is counted at once, so that workers share the limits. */
async function withinRates(
  db: Database,
  wanted: SQL,
  most: number,
  perMinute: number,
  domainPerMinute: number,
): Promise<number[]> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext('amigo send rates'))`);
    const { rows: used } = await tx.execute<{ key: string; count: number }>(
      sql`select key, count from send_rate where minute = date_trunc('minute', now())`,
    );
    const counts = new Map(used.map(({ key, count }) => [key, count]));
    const { rows } = await tx.execute<{
      id: string;
      domain: string;
      priority: number;
    }>(sql`select id, domain, priority from (
      select ${delivery.id}, split_part(${delivery.address}, '@', 2) as domain, ${delivery.priority}, row_number() over (partition by split_part(${delivery.address}, '@', 2) order by ${delivery.priority}, ${delivery.id}) as place from ${delivery} where ${wanted}
    ) as due ${domainPerMinute === 0 ? sql`` : sql`where place <= ${domainPerMinute}`} order by priority, id limit ${most}`);
    const taken: number[] = [];
    const fresh = new Map<string, number>();
    const left = (key: string, limit: number, priority: number): boolean =>
      limit === 0 ||
      (counts.get(key) ?? 0) + (fresh.get(key) ?? 0) < limit - keptFree(limit, priority);
    for (const { id, domain, priority } of rows) {
      if (!left("", perMinute, priority)) break;
      if (!left(domain, domainPerMinute, priority)) continue;
      for (const key of ["", domain]) fresh.set(key, (fresh.get(key) ?? 0) + 1);
      taken.push(Number(id));
    }
    if (fresh.size > 0)
      await tx.execute(
        sql`insert into send_rate (key, minute, count) select k, date_trunc('minute', now()), c from json_to_recordset(${JSON.stringify([...fresh].map(([k, c]) => ({ k, c })))}::json) as new(k text, c int) on conflict (key, minute) do update set count = send_rate.count + excluded.count`,
      );
    await tx.execute(sql`delete from send_rate where minute < now() - interval '1 hour'`);
    return taken;
  });
}

/** How much of a limit is kept free for what somebody waits for at this moment: a tenth, so that it never waits for the next minute. */
function keptFree(limit: number, priority: number): number {
  return priority <= PRIORITIES.link || limit < 10 ? 0 : Math.ceil(limit / 10);
}

/** A note is a secret's way to its owner: once it is sent, its subject is all that is kept. */
const SUBJECT_ALONE = sql.raw(
  `raw = coalesce(convert_to(substring(convert_from(substring(message.raw from 1 for least(8000, position('\\x0d0a0d0a'::bytea in message.raw))), 'LATIN1') from E'(?n)^(Subject:[^\\r]*(?:\\r\\n[ \\t][^\\r]*)*)') || E'\\r\\n\\r\\n', 'LATIN1'), ''::bytea), mold = null, erased_at = now()`,
);

/** Keeps the subject alone of mails of Amigo's own to many of which no copy waits any more; where two workers end the last ones at once, neither does. */
export async function emptySentSheets(db: Queries): Promise<void> {
  await db.execute(sql`
    update message set ${SUBJECT_ALONE}
    where mold is not null and not exists (
      select 1 from delivery where delivery.message_id = message.id and delivery.state in ('queued', 'sending', 'deferred'))`);
}

/** Stores the results of some copies, all at once. */
export async function finish(db: Queries, outcomes: readonly Outcome[]): Promise<void> {
  if (outcomes.length === 0) return;
  const rows = outcomes.map((outcome) => ({
    i: outcome.id,
    s: outcome.state,
    r: outcome.reply,
    p: outcome.state === "deferred" ? outcome.pause : 0,
  }));
  // An address that failed now and then works again once mail arrives there.
  await db.execute(sql`with done as (
      update delivery set state = told.s, reply = told.r, fields = case when told.s in ('sent', 'bounced') and post_id is null then null else fields end, sent_at = case when told.s = 'sent' then now() else sent_at end, next_at = case when told.s = 'deferred' then now() + make_interval(secs => told.p) else next_at end
      from json_to_recordset(${JSON.stringify(rows)}::json) as told(i bigint, s text, r text, p int) where delivery.id = told.i and delivery.state = 'sending' returning delivery.id, delivery.message_id, delivery.post_id, delivery.address, told.s as state
    ), ended as (select distinct message_id from done where state in ('sent', 'bounced') and post_id is null
    ), notes as (
      update message set ${SUBJECT_ALONE}
      from ended where message.id = ended.message_id
        and not exists (select 1 from post where post.message_id = message.id)
        and not exists (select 1 from delivery as other where other.message_id = message.id and other.state in ('queued', 'sending', 'deferred')
          and not exists (select 1 from done where done.id = other.id and done.state in ('sent', 'bounced')))
    ) delete from address_trouble using done where done.state = 'sent' and address_trouble.state = 'shaky' and address_trouble.address = done.address`);
}

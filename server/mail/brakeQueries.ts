import { and, eq, isNull, sql } from "drizzle-orm";
import type { Failures } from "@amigo/core/mail/bounces/isWave";
import type { Queries } from "../db/connect";
import { addressTrouble, brake } from "../db/schema/deliveries";

export type Scope = "domain" | "mail";

/** Makes others who sort a failure wait until this transaction ends, so that all of a wave are seen together. */
export async function lockBrakes(db: Queries): Promise<void> {
  await db.execute(sql`select pg_advisory_xact_lock(hashtext('amigo brakes'))`);
}

/** Returns the mail and the domain that a failed copy is of. */
export async function findFailedCopy(db: Queries, deliveryId: number) {
  const { rows } = await db.execute<{ message: string; domain: string; list: string | null }>(
    sql`select message_id as message, split_part(address, '@', 2) as domain, list_id as list from delivery where id = ${deliveryId}`,
  );
  return rows[0];
}

/** Returns the wave of the last day that is still to be decided on. */
export async function findOpenBrake(db: Queries, scope: Scope, about: string) {
  const [found] = await db
    .select({ id: brake.id })
    .from(brake)
    .where(
      and(
        eq(brake.scope, scope),
        eq(brake.about, about),
        isNull(brake.decidedAt),
        sql`${brake.at} > now() - interval '1 day'`,
      ),
    );
  return found?.id;
}

/**
 * Lists the copies of a mail that failed for good within the hour, since somebody decided on a wave last, and counts all.
 *
 * @param domain only those to this domain; undefined for all of the list
 */
export async function failuresOf(
  db: Queries,
  { message, list }: { message: string; list: string | null },
  scope: Scope,
  about: string,
  domain: string | undefined,
): Promise<Failures & { addresses: string[] }> {
  const { rows } = await db.execute<{ tried: number; addresses: string[] | null }>(sql`
    with since as (
      select greatest(now() - interval '1 hour', (select max(decided_at) from brake where scope = ${scope} and about = ${about})) as at
    ), copies as (
      select delivery.address, exists (
        select 1 from bounce, since where bounce.address = delivery.address and bounce.at >= since.at and bounce.sort in ('no mailbox', 'no domain')) as failed
      from delivery where delivery.message_id = ${message}::uuid and delivery.list_id is not distinct from ${list}::uuid and delivery.state <> 'cancelled'
        and ${domain === undefined ? sql`true` : sql`split_part(delivery.address, '@', 2) = ${domain}`}
    ) select count(*)::int as tried, array_agg(address) filter (where failed) as addresses from copies`);
  const addresses = rows[0]?.addresses ?? [];
  return { addresses, failed: addresses.length, tried: rows[0]?.tried ?? 0 };
}

/** Stores a wave, and returns its id. */
export async function storeBrake(
  db: Queries,
  scope: Scope,
  about: string,
  words: string,
): Promise<string> {
  const [made] = await db.insert(brake).values({ scope, about, words }).returning({ id: brake.id });
  if (made === undefined) throw new Error("the brake was not stored");
  return made.id;
}

/** Puts addresses under a brake: mail goes to them, and what was cancelled within the hour as they had been stopped waits again. */
export async function putUnderBrake(
  db: Queries,
  brakeId: string,
  addresses: readonly string[],
): Promise<void> {
  const some = sql`(select json_array_elements_text(${JSON.stringify(addresses)}::json))`;
  await db.execute(
    sql`update address_trouble set state = 'shaky', brake_id = ${brakeId} where address in ${some}`,
  );
  await db.execute(
    sql`update delivery set state = 'queued', reply = '', next_at = now() where address in ${some} and state = 'cancelled' and reply = 'mail to this address has stopped' and created_at > now() - interval '1 day'`,
  );
}

/** Lists the waves that somebody has to decide on, with how many addresses each has. */
export async function listOpenBrakes(db: Queries) {
  const { rows } = await db.execute<{
    id: string;
    at: Date;
    scope: Scope;
    about: string;
    words: string;
    addresses: number;
    title: string | null;
  }>(sql`
    select brake.id, brake.at, brake.scope, brake.about, brake.words,
      (select count(*)::int from address_trouble where address_trouble.brake_id = brake.id) as addresses,
      case brake.scope when 'mail' then (select subject from post where post.message_id::text = brake.about limit 1) end as title
    from brake where brake.decided_at is null order by brake.at desc`);
  return rows.filter(({ addresses }) => addresses > 0);
}

/** Stores what was decided on a wave, and returns its addresses; undefined where somebody has decided already. */
export async function decideBrake(
  db: Queries,
  id: string,
  decision: "resume" | "stop",
  by: string,
): Promise<string[] | undefined> {
  const decided = await db
    .update(brake)
    .set({ decision, decidedBy: by, decidedAt: sql`now()` })
    .where(and(eq(brake.id, id), isNull(brake.decidedAt)));
  if ((decided.rowCount ?? 0) === 0) return undefined;
  const rows = await db
    .select({ address: addressTrouble.address })
    .from(addressTrouble)
    .where(eq(addressTrouble.brakeId, id));
  return rows.map(({ address }) => address);
}

/** Stops mail to the addresses of a wave. */
export async function stopUnderBrake(db: Queries, id: string): Promise<void> {
  await db
    .update(addressTrouble)
    .set({ state: "stopped", brakeId: null, since: sql`now()` })
    .where(eq(addressTrouble.brakeId, id));
}

import { and, eq, sql } from "drizzle-orm";
import type { BounceSort } from "@amigo/core/mail/bounces/form";
import type { Queries } from "../db/connect";
import { isRecent } from "../posting/leaveToken";
import { delivery, bounce, addressTrouble } from "../db/schema/deliveries";

/** Returns the copy of a post to whose return path a mail came. */
export async function findReturnedCopy(db: Queries, token: string) {
  const [found] = await db
    .select({ id: delivery.id, address: delivery.address })
    .from(delivery)
    .where(eq(delivery.token, token));
  return found;
}

/** Returns the copy of an id, for a year after its post. */
export async function findCopyById(db: Queries, id: number) {
  const [found] = await db
    .select({ id: delivery.id, address: delivery.address })
    .from(delivery)
    .where(and(eq(delivery.id, id), isRecent));
  return found;
}

/** Stores that a copy came back. */
export async function markBounced(db: Queries, reply: string, id: number): Promise<void> {
  await db.update(delivery).set({ state: "bounced", reply }).where(eq(delivery.id, id));
}

/** Stores a returned mail. */
export async function storeBounce(
  db: Queries,
  deliveryId: number | null,
  address: string,
  sort: BounceSort,
  form: string,
  words: string,
): Promise<void> {
  await db.insert(bounce).values({ deliveryId, address, sort, form, words });
}

/** Counts on how many days mails to an address came back in a passing way, beside how many the school allows. */
export function countSoftDays(db: Queries, address: string, deliveryId: number | null) {
  return db.execute<{ days: number; limit: number }>(sql`
    select house.soft_days as limit, (select count(distinct (bounce.at at time zone house.time_zone)::date)::int from bounce where bounce.address = ${address} and bounce.sort in ('full', 'temporary') and bounce.at > greatest(now() - interval '30 days', coalesce((select max(sent_at) from delivery where delivery.address = ${address} and delivery.state = 'sent' and delivery.id is distinct from ${deliveryId}), '-infinity'))) as days from house`);
}

/** Returns whether mail to an address is stopped or in doubt. */
export async function findTrouble(db: Queries, address: string) {
  const [found] = await db
    .select({ state: addressTrouble.state })
    .from(addressTrouble)
    .where(sql`${addressTrouble.address} = ${address}`);
  return found;
}

/** Stores that mail to an address is stopped or in doubt. */
export async function storeTrouble(
  db: Queries,
  address: string,
  isStopped: boolean,
  sort: BounceSort,
  words: string,
): Promise<void> {
  await db
    .insert(addressTrouble)
    .values({ address, state: isStopped ? "stopped" : "shaky", sort, words })
    .onConflictDoUpdate({
      target: addressTrouble.address,
      set: { state: isStopped ? "stopped" : "shaky", sort, words, lastAt: sql`now()` },
    });
}

/** Cancels the copies that wait to be sent to an address. */
export async function cancelCopiesTo(db: Queries, address: string): Promise<void> {
  await db.execute(
    sql`update delivery set state = 'cancelled', reply = 'mail to this address has stopped' where address = ${address} and state in ('queued', 'deferred') and list_id is not null`,
  );
}

/** Forgets that mails to an address came back, and returns what it was. */
export async function removeTrouble(db: Queries, address: string) {
  const [found] = await db
    .delete(addressTrouble)
    .where(sql`${addressTrouble.address} = ${address}`)
    .returning({ state: addressTrouble.state });
  return found;
}

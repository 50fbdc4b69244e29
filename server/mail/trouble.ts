import { sql } from "drizzle-orm";
import type { BounceSort } from "@amigo/core/mail/bounces/form";
import { isForGood, isOfAddress } from "@amigo/core/mail/bounces/sortOf";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../journal/record";
import { t } from "../texts/t";
import { bounce, addressTrouble } from "../db/schema/deliveries";

/** Something that came back of a copy, or was refused at once. */
export interface CameBack {
  deliveryId: number | null;
  address: string;
  sort: BounceSort;
  form: string;
  words: string;
}

/**
 * Writes down that mail to an address came back, and what it means for the address: what is for good stops mail to it at
 * once; what is for now does so once it has come on as many days as the house has set, with no success between.
 */
export async function cameBack(
  tx: Queries,
  { deliveryId, address, sort, form, words }: CameBack,
): Promise<void> {
  await tx.insert(bounce).values({ deliveryId, address, sort, form, words });
  if (!isOfAddress(sort)) return;
  const { rows } = await tx.execute<{ days: number; limit: number }>(sql`
    select house.soft_days as limit, (select count(distinct (bounce.at at time zone house.time_zone)::date)::int from bounce where bounce.address = ${address} and bounce.sort in ('full', 'temporary') and bounce.at > greatest(now() - interval '30 days', coalesce((select max(sent_at) from delivery where delivery.address = ${address} and delivery.state = 'sent' and delivery.id is distinct from ${deliveryId}), '-infinity'))) as days from house`);
  const [counted] = rows;
  const stops = isForGood(sort) || (counted !== undefined && counted.days >= counted.limit);
  const [before] = await tx
    .select({ state: addressTrouble.state })
    .from(addressTrouble)
    .where(sql`${addressTrouble.address} = ${address}`);
  if (before?.state === "stopped") return;
  await tx
    .insert(addressTrouble)
    .values({ address, state: stops ? "stopped" : "shaky", sort, words })
    .onConflictDoUpdate({
      target: addressTrouble.address,
      set: { state: stops ? "stopped" : "shaky", sort, words, lastAt: sql`now()` },
    });
  if (!stops) return;
  await tx.execute(
    sql`update delivery set state = 'cancelled', reply = 'mail to this address has stopped' where address = ${address} and state in ('queued', 'deferred') and list_id is not null`,
  );
  await record(tx, {
    actor: "Amigo",
    action: "address stopped",
    sentence: t("mail.mailToHasStopped", { address, words: words.slice(0, 200) }),
  });
  await notify(tx, "board", "posts", "people");
}

/** Mail goes to an address again: by a word of its owner, by a coordinator, or because it did arrive. Answers whether anything was wrong with it. */
export async function heal(
  tx: Queries,
  address: string,
  by: { id: string | null; name: string },
  why: string,
): Promise<boolean> {
  const [gone] = await tx
    .delete(addressTrouble)
    .where(sql`${addressTrouble.address} = ${address}`)
    .returning({ state: addressTrouble.state });
  if (gone?.state === "stopped")
    await record(tx, {
      actorId: by.id,
      actor: by.name,
      action: "address heals",
      sentence: t("mail.mailGoesToAgain", { address, why }),
    });
  if (gone !== undefined) await notify(tx, "board", "posts", "people");
  return gone !== undefined;
}

import { sql, type SQL } from "drizzle-orm";
import { keepTimes } from "@amigo/core/retention/kept";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../journal/record";
import { decideHeld } from "../posting/decideHeld";
import { t } from "../texts/t";
import { house } from "../db/schema/house";

/** Returns held mail on which nobody has decided for as long as the house waits. Answers how many. */
export async function returnForgotten(db: Database): Promise<number> {
  const { rows } = await db.execute<{ id: string; days: number }>(
    sql`select post.id, house.held_days as days from post, house where post.outcome = 'held' and post.at < now() - make_interval(days => house.held_days) order by post.at limit 200`,
  );
  for (const { id, days } of rows)
    await decideHeld(
      db,
      id,
      { id: null, name: "Amigo" },
      "return",
      t("mail.nobodyDecidedOnItWithin", { days }),
    ).catch(() => undefined);
  return rows.length;
}

/**
 * A query for the ids of messages that are no longer kept: older than so many days (null for no such limit), or of lists that keep
 * none. Never one that still waits for a decision, a copy or a digest.
 */
export function overArchiveTime(days: number | null): SQL {
  return sql`
    select message.id from message where message.erased_at is null and exists (
      select 1 from post where post.message_id = message.id) and not exists (
      select 1 from post where post.message_id = message.id and (
        post.outcome = 'held'
        or exists (select 1 from delivery where delivery.post_id = post.id and delivery.state in ('queued', 'sending', 'deferred'))
        or exists (select 1 from digest_item where digest_item.post_id = post.id and digest_item.sent_at is null)
        or not (
          ${days === null ? sql`false` : sql`post.at < now() - make_interval(days => ${days})`}
          or (post.at < now() - interval '1 day' and exists (select 1 from post_list where post_list.post_id = post.id) and not exists (select 1 from post_list join list on list.id = post_list.list_id where post_list.post_id = post.id and list.rules->>'archive' <> 'none')))))`;
}

/**
 * Deletes from the archive what is older than the house keeps, and what went to lists that keep none, once every copy has
 * left or has been given up and every digest is out. The post's line stays, with what became of its copies.
 */
export async function eraseOld({ db }: Pick<Context, "db">): Promise<number> {
  return db.transaction(async (tx) => {
    const [own] = await tx.select({ keep: house.keep }).from(house);
    const { rowCount } = await tx.execute(sql`
      with gone as (
        update message set raw = ''::bytea, merge = null, erased_at = now() where message.id in (${overArchiveTime(keepTimes(own?.keep ?? {}).posts)})
        returning message.id)
      update post set words = to_tsvector('simple', left(subject, 500)), beginning = '' from gone where post.message_id = gone.id`);
    const count = rowCount ?? 0;
    if (count > 0) {
      await record(tx, {
        actor: "Amigo",
        action: "archive",
        sentence: t("mail.deletedFromTheArchiveAs", { count }),
      });
      await notify(tx, "posts");
    }
    return count;
  });
}

import { sql } from "drizzle-orm";
import type { Queries } from "../db/connect";

/** How many are listed at most. */
const MOST = 1000;

export interface MissedRow extends Record<string, unknown> {
  address: string;
  list: string;
  /** When they came onto the list, where that was after the post. */
  joined: string | null;
  /** Whether the post waits for their digest, or when it went out in one. */
  in_digest: boolean;
  digest_at: string | null;
  stopped: string | null;
  stopped_words: string | null;
  paused: string | null;
  how_often: string;
  /** Whether they got the very same mail by another list. */
  elsewhere: boolean;
}

/** Lists who is on some lists of a post, or was then, and got no copy of it, with all that could be the reason. */
export async function listMissed(
  db: Queries,
  postId: string,
  lists: readonly string[],
): Promise<MissedRow[]> {
  if (lists.length === 0) return [];
  const { rows } = await db.execute<MissedRow>(sql`
    with sent as (
      select post.id, post.at, message.message_id from post join message on message.id = post.message_id where post.id = ${postId}::uuid
    ), members as (
      select distinct on (membership.address) membership.address, membership.list_id, membership.valid_from
      from membership, sent
      where membership.list_id in (select json_array_elements_text(${JSON.stringify(lists)}::json)::uuid)
        and (membership.valid_until is null or (membership.valid_from <= sent.at and membership.valid_until > sent.at))
      order by membership.address, membership.valid_from
    )
    select members.address, members.list_id as list,
      case when members.valid_from > sent.at then members.valid_from end as joined,
      digest_item.post_id is not null as in_digest, digest_item.sent_at as digest_at,
      trouble.since as stopped, trouble.words as stopped_words, pause.until::text as paused,
      coalesce(receiving.how_often, list.rules->>'howOften') as how_often,
      exists (select 1 from message join delivery on delivery.message_id = message.id where message.message_id = sent.message_id and delivery.address = members.address and delivery.post_id <> sent.id) as elsewhere
    from members cross join sent join list on list.id = members.list_id
      left join digest_item on digest_item.post_id = sent.id and digest_item.address = members.address
      left join address_trouble as trouble on trouble.address = members.address and trouble.state = 'stopped'
      left join house on true
      left join pause on pause.address = members.address and pause.until >= (now() at time zone house.time_zone)::date
      left join receiving on receiving.list_id = members.list_id and receiving.address = members.address
    where not exists (select 1 from delivery where delivery.post_id = sent.id and delivery.address = members.address)
    order by members.address limit ${MOST}`);
  return rows;
}

import { sql } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { delivery } from "../db/schema/deliveries";
import { post } from "../db/schema/posts";
import { copiesOf } from "../membership/scope";

/**
 * Counts posts and their copies by week, of those of which somebody may know, for a list or in all. A week begins on a Monday on
 * the house's clocks; the last one is this week, so far.
 */
export async function countByWeek(
  db: Queries,
  caller: Caller,
  { list, weeks }: { list: string | undefined; weeks: number },
) {
  const ofList = list === undefined ? sql`true` : sql`${delivery.listId} = ${list}`;
  const { rows } = await db.execute<{
    week: string;
    posts: number;
    copies: number;
    delivered: number;
    failed: number;
  }>(sql`
    with clock as (
      select time_zone, date_trunc('week', now() at time zone time_zone) as this_week from house
    ), counted as (
      select date_trunc('week', ${delivery.createdAt} at time zone clock.time_zone) as week,
             count(distinct ${delivery.postId})::int as posts, count(*)::int as copies,
             count(*) filter (where ${delivery.state} = 'sent')::int as delivered,
             count(*) filter (where ${delivery.state} = 'bounced')::int as failed
      from clock, ${delivery} join ${post} on ${post.id} = ${delivery.postId}
      where ${delivery.createdAt} >= (clock.this_week - (${weeks - 1} * interval '7 days')) at time zone clock.time_zone
        and ${delivery.state} <> 'cancelled' and ${ofList} and ${copiesOf(caller)}
      group by 1
    )
    select to_char(every.week, 'YYYY-MM-DD') as week, coalesce(posts, 0) as posts, coalesce(copies, 0) as copies,
           coalesce(delivered, 0) as delivered, coalesce(failed, 0) as failed
    from clock, generate_series(clock.this_week - (${weeks - 1} * interval '7 days'), clock.this_week, interval '7 days') as every (week)
    left join counted on counted.week = every.week
    order by every.week`);
  return rows;
}

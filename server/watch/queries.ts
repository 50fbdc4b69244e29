import { sql } from "drizzle-orm";
import type { Queries } from "../db/connect";

/** Counts copies by what has become of them, of those that wait or are of the last day, with how long the oldest has waited. */
export async function countCopies(db: Queries) {
  const { rows } = await db.execute<{ state: string; copies: number; oldest: number }>(sql`
    select state, count(*)::int as copies,
           coalesce(extract(epoch from now() - min(created_at) filter (where state in ('queued', 'sending', 'deferred'))), 0)::float as oldest
    from delivery
    where state in ('queued', 'sending', 'deferred') or created_at > now() - interval '1 day'
    group by state`);
  return rows;
}

/** Counts what came back in the last day, by what it was sorted as. */
export async function countBounces(db: Queries) {
  const { rows } = await db.execute<{ sort: string; bounces: number }>(
    sql`select sort, count(*)::int as bounces from bounce where at > now() - interval '1 day' group by sort`,
  );
  return rows;
}

/** Counts imports and rounds of the last day, and what waits in the open round. */
export async function countChanges(db: Queries) {
  const { rows } = await db.execute<{ imports: number; rounds: number; failing: number }>(sql`
    select (select count(*)::int from reading where read_at > now() - interval '1 day') as imports,
           (select count(*)::int from round where closed_at > now() - interval '1 day') as rounds,
           (select count(*)::int from source where failures >= 3) as failing`);
  return rows[0];
}

import { sql } from "drizzle-orm";
import type { Context as HonoContext } from "hono";
import type { Context } from "../context";
import { networkAddress } from "../http/networkAddress";

/** One more request of a network address in this minute; whether that is still within what is let pass. */
export async function withinRate(context: Context, http: HonoContext): Promise<boolean> {
  const { db, settings } = context;
  const { rows } = await db.execute<{ count: number }>(
    sql`insert into send_rate (key, minute, count) values (${`form ${networkAddress(http, settings)}`}, date_trunc('minute', now()), 1) on conflict (key, minute) do update set count = send_rate.count + 1 returning count`,
  );
  return Number(rows[0]?.count ?? 0) <= settings.formPerMinute;
}

import type pg from "pg";
import type { Queries } from "./connect";

/** Returns the connection under a transaction. Drizzle has no word for COPY, so this reaches one step below it. */
export function clientOf(tx: Queries): pg.PoolClient {
  const { session } = (tx as unknown as { _: { session: { client: pg.PoolClient } } })._;
  return session.client;
}

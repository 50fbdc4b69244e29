import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import pg from "pg";

export type Database = NodePgDatabase & { $client: pg.Pool };
/** A database or one transaction in it. */
export type Queries = Pick<
  Database,
  "select" | "insert" | "update" | "delete" | "execute" | "selectDistinct" | "selectDistinctOn"
>;

export interface Connection {
  db: Database;
  pool: pg.Pool;
  close(): Promise<void>;
}

/**
 * Opens a pool of connections. A lost connection is replaced at its next use; its loss is told to `onLoss`.
 *
 * @param most how many connections it has at once, at most
 */
export function connect(
  url: string,
  {
    most = 12,
    onLoss = () => undefined,
  }: { most?: number; onLoss?: (failure: Error) => void } = {},
): Connection {
  const pool = new pg.Pool({
    connectionString: url,
    max: most,
    connectionTimeoutMillis: 10_000,
    keepAlive: true,
  });
  pool.on("error", onLoss);
  // A connection that breaks while it is in use tells whoever uses it; without a listener it would end the process, too.
  pool.on("connect", (client) => client.on("error", () => undefined));
  return { db: drizzle(pool), pool, close: () => pool.end() };
}

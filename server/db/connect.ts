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

/** Opens a pool of connections. A lost connection is replaced at its next use; its loss is told to `onLoss`. */
export function connect(
  url: string,
  onLoss: (failure: Error) => void = () => undefined,
): Connection {
  const pool = new pg.Pool({ connectionString: url, max: 12, connectionTimeoutMillis: 10_000 });
  pool.on("error", onLoss);
  return { db: drizzle(pool), pool, close: () => pool.end() };
}

import type { Pool, PoolClient } from "pg";

/**
 * Does some work under a lock that only one process of all may have at a time. The lock belongs to a transaction that does nothing
 * else, so it is held behind a pooler of connections, too, and free as soon as the process that has it is gone.
 *
 * @param lock  a number that stands for this kind of work
 * @param key   which of them
 * @returns what the work returns, or undefined where somebody else has the lock
 */
export function holdLock<Result>(
  pool: Pool,
  lock: number,
  key: string,
  work: () => Promise<Result>,
): Promise<Result | undefined> {
  return within(pool, async (client) => {
    const { rows } = await client.query<{ free: boolean }>(
      "select pg_try_advisory_xact_lock($1, hashtext($2)) as free",
      [lock, key],
    );
    return rows[0]?.free === true ? work() : undefined;
  });
}

/** Does some work when no other process of all does it, waiting for them to finish. */
export function awaitLock<Result>(
  pool: Pool,
  lock: number,
  work: () => Promise<Result>,
): Promise<Result> {
  return within(pool, async (client) => {
    await client.query("select pg_advisory_xact_lock($1)", [lock]);
    return work();
  });
}

/** Does something in a transaction of its own, which changes nothing. */
async function within<Result>(
  pool: Pool,
  work: (client: PoolClient) => Promise<Result>,
): Promise<Result> {
  const client = await pool.connect();
  try {
    // It waits, and does nothing itself, for as long as the work takes.
    await client.query(
      "begin; set local idle_in_transaction_session_timeout = 0; set local lock_timeout = 0; set local statement_timeout = 0",
    );
    return await work(client);
  } finally {
    // Where the connection is gone, so is the lock; such a client is not used again.
    const failure = await client.query("rollback").then(
      () => undefined,
      (reason: Error) => reason,
    );
    client.release(failure);
  }
}

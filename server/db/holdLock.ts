import type { Pool } from "pg";

/**
 * Does some work under a lock that only one process of all may have at a time. The lock belongs to a transaction that does nothing
 * else, so it is held behind a pooler of connections, too, and free as soon as the process that has it is gone.
 *
 * @param lock  a number that stands for this kind of work
 * @param key   which of them
 * @returns what the work returns, or undefined where somebody else has the lock
 */
export async function holdLock<Result>(
  pool: Pool,
  lock: number,
  key: string,
  work: () => Promise<Result>,
): Promise<Result | undefined> {
  const client = await pool.connect();
  try {
    await client.query("begin");
    const { rows } = await client.query<{ free: boolean }>(
      "select pg_try_advisory_xact_lock($1, hashtext($2)) as free",
      [lock, key],
    );
    return rows[0]?.free === true ? await work() : undefined;
  } finally {
    // Where the connection is gone, so is the lock; such a client is not used again.
    const failure = await client.query("rollback").then(
      () => undefined,
      (reason: Error) => reason,
    );
    client.release(failure);
  }
}

/** Does some work when no other process of all does it, waiting for them to finish. */
export async function awaitLock<Result>(
  pool: Pool,
  lock: number,
  work: () => Promise<Result>,
): Promise<Result> {
  const client = await pool.connect();
  try {
    await client.query("begin");
    await client.query("select pg_advisory_xact_lock($1)", [lock]);
    return await work();
  } finally {
    const failure = await client.query("rollback").then(
      () => undefined,
      (reason: Error) => reason,
    );
    client.release(failure);
  }
}

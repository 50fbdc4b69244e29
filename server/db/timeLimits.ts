import { sql } from "drizzle-orm";
import type { Client } from "pg";
import type { Queries } from "./connect";

/** Settings of PostgreSQL that end what takes too long, in its own notation. */
type Limit = "statement_timeout" | "lock_timeout" | "idle_in_transaction_session_timeout";

/**
 * What holds for everything that isn't said to be long: a lock that somebody holds from outside, or a statement that never ends,
 * must not keep all connections. They belong to the role in its database, because a pooler of connections refuses them otherwise.
 */
const USUAL: Readonly<Record<Limit, string>> = {
  statement_timeout: "2min",
  lock_timeout: "10s",
  idle_in_transaction_session_timeout: "5min",
};

/** What holds in a transaction that changes much at once: an import, a round, a removal over time. */
const LONG: Readonly<Record<Limit, string>> = {
  statement_timeout: "30min",
  lock_timeout: "20s",
  idle_in_transaction_session_timeout: "30min",
};

const LIMITS = Object.keys(USUAL) as Limit[];

/**
 * Gives the role that is connected the usual limits in its database, for every connection from now on. A limit that somebody has
 * set already, as an operator may, stays.
 */
export async function setUsualLimits(client: Client): Promise<void> {
  for (const limit of LIMITS) {
    const { rows } = await client.query<{ value: string; database: string }>(
      "select reset_val as value, quote_ident(current_database()) as database from pg_settings where name = $1",
      [limit],
    );
    const [{ value, database } = { value: "", database: "" }] = rows;
    if (value === "0")
      await client.query(
        `alter role current_user in database ${database} set ${limit} = '${USUAL[limit]}'`,
      );
  }
}

/** Lets the transaction that is given take long, without giving its connection back with other limits than it had. */
export async function allowLong(tx: Queries): Promise<void> {
  await tx.execute(longLimits());
}

/**
 * The same as the beginning of a SELECT.
 *
 * @param locks for how long a lock is waited for, in PostgreSQL's notation
 */
export function longLimits(locks = LONG.lock_timeout) {
  return sql.join(
    [
      sql`select`,
      sql.join(
        LIMITS.map(
          (limit) =>
            sql`set_config(${limit}, ${limit === "lock_timeout" ? locks : LONG[limit]}, true)`,
        ),
        sql`, `,
      ),
    ],
    sql` `,
  );
}

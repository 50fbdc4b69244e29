import { setUsualLimits } from "./timeLimits";
import { drizzle } from "drizzle-orm/node-postgres";
import { migrate as runMigrations } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";
import { knownMigrations, lastMigrationIn, MIGRATIONS } from "./knownMigrations";

/** Any number that no other program in this database uses for an advisory lock. */
const MIGRATION_LOCK = 7_204_117;

/**
 * Brings the database to the newest schema, one process at a time.
 *
 * @throws Error with a sentence where a newer Amigo has updated the database: what this one doesn't know it could damage
 */
export async function migrate(url: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query(
      "set statement_timeout = 0; set lock_timeout = 0; set idle_in_transaction_session_timeout = 0",
    );
    await client.query("select pg_advisory_lock($1)", [MIGRATION_LOCK]);
    if ((await lastMigrationIn(client)) > knownMigrations().last)
      throw new Error(
        "A newer Amigo has updated this database, and this one doesn't know all that is in it. Start the newer Amigo, or restore a backup from before the update.",
      );
    await runMigrations(drizzle(client), { migrationsFolder: MIGRATIONS });
    await setUsualLimits(client);
  } finally {
    await client.end();
  }
}

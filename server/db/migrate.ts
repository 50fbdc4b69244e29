import { fileURLToPath } from "node:url";
import { drizzle } from "drizzle-orm/node-postgres";
import { migrate as runMigrations } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";

/** Any number that no other program in this database uses for an advisory lock. */
const MIGRATION_LOCK = 7_204_117;

/** Brings the database to the newest schema, one process at a time. */
export async function migrate(url: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query("select pg_advisory_lock($1)", [MIGRATION_LOCK]);
    await runMigrations(drizzle(client), {
      migrationsFolder: fileURLToPath(new URL("migrations", import.meta.url)),
    });
  } finally {
    await client.end();
  }
}

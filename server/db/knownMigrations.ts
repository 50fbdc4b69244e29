import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import type pg from "pg";

export const MIGRATIONS = fileURLToPath(new URL("migrations", import.meta.url));

/** Returns how many schema updates this Amigo knows, and when the last of them was made, in milliseconds since 1970. */
export function knownMigrations(): { count: number; last: number } {
  const { entries } = JSON.parse(readFileSync(`${MIGRATIONS}/meta/_journal.json`, "utf8")) as {
    entries: { when: number }[];
  };
  return { count: entries.length, last: Math.max(0, ...entries.map(({ when }) => when)) };
}

/** Returns when the last schema update in a database was made, in milliseconds since 1970; 0 where there is none yet. */
export async function lastMigrationIn(client: Pick<pg.Client, "query">): Promise<number> {
  const there = await client.query("select to_regclass('drizzle.__drizzle_migrations') as found");
  if ((there.rows[0] as { found: string | null }).found === null) return 0;
  const { rows } = await client.query(
    "select coalesce(max(created_at), 0) as last from drizzle.__drizzle_migrations",
  );
  return Number((rows[0] as { last: string }).last);
}

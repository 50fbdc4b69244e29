import { desc, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { reading } from "../db/schema/sources";

/** Returns the database's version, its size in octets, and its clock in milliseconds since 1970. */
export async function findDatabaseState(
  db: Queries,
): Promise<{ version: string; octets: number; now: number }> {
  const { rows } = await db.execute<{ version: string; octets: number; now: number }>(sql`
    select current_setting('server_version') as version, pg_database_size(current_database())::float8 as octets,
           (extract(epoch from clock_timestamp()) * 1000)::float8 as now`);
  const [found] = rows;
  if (found === undefined) throw new Error("the database didn't say what it is");
  return { ...found, version: found.version.split(" ")[0] ?? "" };
}

/** Returns the last import of any source. */
export async function findLastImport(db: Queries) {
  const [last] = await db
    .select({ at: reading.readAt, fileName: reading.fileName })
    .from(reading)
    .orderBy(desc(reading.readAt))
    .limit(1);
  return last;
}

import { sql } from "drizzle-orm";
import { onDatabase } from "../db/onDatabase";

/** Returns which kind of house a database holds: the demo house, a real one, or none yet. */
export async function kindInDatabase(
  databaseUrl: string | undefined,
): Promise<"demo" | "house" | "empty"> {
  return onDatabase(databaseUrl, async (tx) => {
    const there = await tx.execute<{ found: string | null }>(
      sql`select to_regclass('public.house') as found`,
    );
    if (there.rows[0]?.found == null) return "empty";
    const { rows } = await tx.execute<{ demo: boolean }>(sql`select demo from house`);
    return rows[0] === undefined ? "empty" : rows[0].demo ? "demo" : "house";
  });
}

import { sql } from "drizzle-orm";
import type { Queries } from "./connect";

/** Asks the database for nothing, to see whether it answers. */
export function askDatabase(db: Queries) {
  return db.execute(sql`select 1`);
}

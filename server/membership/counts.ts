import { sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { listOpenDifferences } from "./queries";

/** How many addresses are on a list now; the columns are written out, for in a query of one table they would lose its name. */
export function memberCount() {
  return sql<number>`(select count(*) from membership where membership.list_id = "list".id and membership.valid_until is null)`.mapWith(
    Number,
  );
}

/** What the open round, decided or not, does to each list, by the list's key. */
export async function openDifferences(
  db: Queries,
): Promise<Map<string, { joins: number; leaves: number }>> {
  const rows = await listOpenDifferences(db);
  return new Map(rows.map(({ list: key, ...counts }) => [key, counts]));
}

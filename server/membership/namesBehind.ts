import type { Queries } from "../db/connect";
import { listNamesBehind } from "./addressQueries";

/** Who is known behind some addresses in a season: the name and what they are, by address, in one query. */
export async function namesBehind(
  db: Queries,
  seasonId: number,
  addresses: readonly string[],
): Promise<Map<string, { name: string; role: string }>> {
  if (addresses.length === 0) return new Map();
  const rows = await listNamesBehind(db, seasonId, addresses);
  return new Map(rows.rows.map(({ address, ...row }) => [address, row]));
}

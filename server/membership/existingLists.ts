import type { Queries } from "../db/connect";
import { listExisting } from "./queries";

/** The lists of a season that are there, closed ones too, by their key. */
export async function existingLists(
  db: Queries,
  seasonId: number,
): Promise<Map<string, { id: string; name: string; title: string; open: boolean }>> {
  const rows = await listExisting(db, seasonId);
  return new Map(
    rows.map(({ key, closedAt, ...row }) => [key, { ...row, open: closedAt === null }]),
  );
}

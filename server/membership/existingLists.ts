import { eq } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { list } from "../db/schema/lists";

/** The lists of a season that are there, closed ones too, by their key. */
export async function existingLists(
  db: Queries,
  seasonId: number,
): Promise<Map<string, { id: string; name: string; title: string; open: boolean }>> {
  const rows = await db
    .select({
      key: list.key,
      id: list.id,
      name: list.name,
      title: list.title,
      closedAt: list.closedAt,
    })
    .from(list)
    .where(eq(list.seasonId, seasonId));
  return new Map(
    rows.map(({ key, closedAt, ...row }) => [key, { ...row, open: closedAt === null }]),
  );
}

import { and, eq, isNull } from "drizzle-orm";
import type { Database } from "../db/connect";
import { list, membership } from "../db/schema/lists";
import { notFound } from "../http/fault";

/** A list that a member is on; for any other, nobody is told whether there is one. */
export async function listOn(
  db: Database,
  id: string,
  address: string,
): Promise<Pick<typeof list.$inferSelect, "id" | "seasonId" | "rules">> {
  const [found] = await db
    .select({ id: list.id, seasonId: list.seasonId, rules: list.rules })
    .from(list)
    .innerJoin(
      membership,
      and(
        eq(membership.listId, list.id),
        eq(membership.address, address),
        isNull(membership.validUntil),
      ),
    )
    .where(and(eq(list.id, id), isNull(list.closedAt)));
  if (found === undefined) throw notFound("list");
  return found;
}

import { and, eq, isNull } from "drizzle-orm";
import { learnDomains, type KnownDomains } from "@amigo/core/address/learnDomains";
import type { Queries } from "../db/connect";
import { fact } from "../db/schema/people";

/** The domains of the addresses that the house knows, by which a slip is known. */
export async function knownDomains(db: Queries, seasonId: number): Promise<KnownDomains> {
  const rows = await db
    .select({ ref: fact.ref })
    .from(fact)
    .where(and(eq(fact.seasonId, seasonId), eq(fact.kind, "address"), isNull(fact.validUntil)));
  return learnDomains(rows.map(({ ref }) => ref));
}

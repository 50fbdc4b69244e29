import { sql } from "drizzle-orm";
import type { Queries } from "./connect";
import { formerInsideDomain, house } from "./schema/house";

/**
 * Returns the domains whose addresses are inside: the one of the settings, and those of before whose time of grace lasts.
 * None before the house is set up.
 */
export async function insideDomains(db: Queries): Promise<string[]> {
  const rows = await db
    .select({ current: house.insideDomain, former: formerInsideDomain.domain })
    .from(house)
    .leftJoin(
      formerInsideDomain,
      sql`${formerInsideDomain.lastDay} >= (now() at time zone ${house.timeZone})::date`,
    );
  return [
    ...new Set(
      rows.flatMap(({ current, former }) => (former === null ? [current] : [current, former])),
    ),
  ];
}

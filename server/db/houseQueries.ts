import { eq, desc } from "drizzle-orm";
import type { Queries } from "./connect";
import { formerDomain, formerInsideDomain, house, season, site } from "./schema/house";

/** Returns the settings of the house, or undefined before it is set up. */
export async function loadHouse(db: Queries): Promise<typeof house.$inferSelect | undefined> {
  const [found] = await db.select().from(house);
  return found;
}

/** Returns the current season, or undefined where none is current. */
export async function loadCurrentSeason(
  db: Queries,
): Promise<typeof season.$inferSelect | undefined> {
  const [found] = await db.select().from(season).where(eq(season.current, true));
  return found;
}

/** Lists the sites by name. */
export function listSites(db: Queries) {
  return db.select().from(site).orderBy(site.name);
}

/** Returns the settings of the house, locked until the transaction ends; undefined before it is set up. */
export async function lockHouse(db: Queries): Promise<typeof house.$inferSelect | undefined> {
  const [found] = await db.select().from(house).for("update");
  return found;
}

/** Lists all seasons, the latest first. */
export function listAllSeasons(db: Queries) {
  return db.select({ id: season.id, label: season.label }).from(season).orderBy(desc(season.id));
}

/** What a domain of before was for. */
export type FormerUse = "lists" | "inside";

const TABLES = { lists: formerDomain, inside: formerInsideDomain };

/** Lists the domains that lists had before, or that were inside, also those whose time is over. */
export function listFormerDomains(db: Queries, use: FormerUse = "lists") {
  const table = TABLES[use];
  return db.select().from(table).orderBy(table.domain);
}

/** Lets mail to a domain reach lists, or its addresses count as inside, until a day. */
export async function storeFormerDomain(
  db: Queries,
  use: FormerUse,
  domain: string,
  lastDay: string,
): Promise<void> {
  const table = TABLES[use];
  await db
    .insert(table)
    .values({ domain, lastDay })
    .onConflictDoUpdate({ target: table.domain, set: { lastDay } });
}

/** Ends a domain's being one of before. */
export async function removeFormerDomain(
  db: Queries,
  use: FormerUse,
  domain: string,
): Promise<void> {
  const table = TABLES[use];
  await db.delete(table).where(eq(table.domain, domain));
}

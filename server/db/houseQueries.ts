import { eq, desc } from "drizzle-orm";
import type { Queries } from "./connect";
import { house, season, site } from "./schema/house";

/** Returns the settings of the house, or undefined before it is set up. */
export async function loadHouse(db: Queries): Promise<typeof house.$inferSelect | undefined> {
  const [found] = await db.select().from(house);
  return found;
}

/** Returns the house's time zone as an IANA name, or UTC before the house is set up. */
export async function houseTimeZone(db: Queries): Promise<string> {
  const [found] = await db.select({ timeZone: house.timeZone }).from(house);
  return found?.timeZone ?? "UTC";
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

/** Locks the house's settings until the transaction ends. */
export async function lockHouse(db: Queries): Promise<void> {
  await db.select({ id: house.id }).from(house).for("update");
}

/** Lists all seasons, the latest first. */
export function listAllSeasons(db: Queries) {
  return db.select({ id: season.id, label: season.label }).from(season).orderBy(desc(season.id));
}

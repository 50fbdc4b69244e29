import { eq, and, isNull, desc, sql, or, count, isNotNull } from "drizzle-orm";
import type { TokenScope } from "@amigo/core/access/tokenScopes";
import type { Limits } from "@amigo/core/step/guards/limits";
import { accountInForce } from "../callers/inForce";
import { hashToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { apiToken, account } from "../db/schema/accounts";
import { house, site, season, picture } from "../db/schema/house";
import { list, cohort, listRole } from "../db/schema/lists";

/** Lists the API tokens that are in force. */
export function listApiTokens(db: Queries) {
  return db
    .select({
      id: apiToken.id,
      name: apiToken.name,
      by: account.name,
      createdAt: apiToken.createdAt,
      scopes: apiToken.scopes,
      lastDay: apiToken.lastDay,
      lastUsedAt: apiToken.lastUsedAt,
    })
    .from(apiToken)
    .innerJoin(account, eq(account.id, apiToken.accountId))
    .where(and(isNull(apiToken.revokedAt), eq(apiToken.forMailProgram, false)))
    .orderBy(desc(apiToken.createdAt));
}

/** Stores an API token by its hash, and returns its id. */
export async function storeApiToken(
  db: Queries,
  name: string,
  scopes: TokenScope[],
  lastDay: string,
  token: string,
  accountId: string,
) {
  const [found] = await db
    .insert(apiToken)
    .values({
      name,
      tokenHash: hashToken(token),
      accountId,
      scopes,
      lastDay,
    })
    .returning({ id: apiToken.id });
  return found;
}

/** Revokes an API token, and returns its name. */
export async function revokeApiToken(db: Queries, id: string) {
  const [found] = await db
    .update(apiToken)
    .set({ revokedAt: sql`now()` })
    .where(and(eq(apiToken.id, id), isNull(apiToken.revokedAt)))
    .returning({ name: apiToken.name });
  return found;
}

/** Lists the sites in the order in which they were made. */
export function listSitesById(db: Queries) {
  return db.select().from(site).orderBy(site.id);
}

/** Gives a site a code that nobody uses, so that codes can be swapped. */
export async function parkSiteCode(db: Queries, id: number): Promise<void> {
  await db
    .update(site)
    .set({ code: `~${id}` })
    .where(eq(site.id, id));
}

/** Stores the code of a site. */
export async function storeSiteCode(db: Queries, code: string, id: number): Promise<void> {
  await db.update(site).set({ code }).where(eq(site.id, id));
}

/** Stores the house's name and settings. */
export async function storeBasics(
  db: Queries,
  name: string,
  wanted: Partial<typeof house.$inferInsert>,
): Promise<void> {
  await db.update(house).set({ name, ...wanted });
}

/** Makes everything that was planned from the facts of the seasons be planned again. */
export async function renewSeasons(db: Queries): Promise<void> {
  await db.update(season).set({ version: sql`${season.version} + 1` });
}

/** Stores the house's picture in place of the one before. */
export async function storePicture(db: Queries, type: string, content: Buffer): Promise<void> {
  const values = { type, content, changedAt: sql`now()` };
  await db.insert(picture).values(values).onConflictDoUpdate({ target: picture.id, set: values });
}

/** Removes the house's picture. */
export async function removePictureRow(db: Queries): Promise<void> {
  await db.delete(picture);
}

/** Stores the house's limits for safety checks. */
export async function storeLimits(db: Queries, limits: Limits): Promise<void> {
  await db.update(house).set({ limits });
}

/** Lists the names of all tables, quoted. */
export function listTables(db: Queries) {
  return db.execute<{ name: string }>(
    sql`select format('%I', tablename) as name from pg_tables where schemaname = 'public'`,
  );
}

/** Empties tables and everything that refers to them. */
export async function emptyTables(db: Queries, tables: readonly { name: string }[]): Promise<void> {
  await db.execute(sql.raw(`truncate ${tables.map(({ name }) => name).join(", ")} cascade`));
}

/** Lists the current season and those that are over, with the number of their lists. */
export function listSeasons(db: Queries) {
  return db
    .select({ label: season.label, current: season.current, lists: count(list.id) })
    .from(season)
    .leftJoin(list, eq(list.seasonId, season.id))
    .where(or(eq(season.current, true), isNotNull(season.overOn)))
    .groupBy(season.id)
    .orderBy(desc(season.label));
}

/** Lists the sites with the number of their classes in a season. */
export function listSitesWithClasses(db: Queries, seasonId: number | undefined) {
  return db
    .select({ code: site.code, name: site.name, classes: count(cohort.id) })
    .from(site)
    .leftJoin(
      cohort,
      and(eq(cohort.siteId, site.id), isNull(cohort.goneAt), eq(cohort.seasonId, seasonId ?? 0)),
    )
    .groupBy(site.id)
    .orderBy(site.name);
}

/** Counts the open lists of a season by recipe, and those that were set otherwise by hand. */
export function countListsByRecipe(db: Queries, seasonId: number | undefined) {
  return db
    .select({
      recipeId: list.recipeId,
      count: count(),
      apart: sql<number>`count(*) filter (where cardinality(${list.apart}) > 0)`.mapWith(Number),
    })
    .from(list)
    .where(and(eq(list.seasonId, seasonId ?? 0), isNull(list.closedAt)))
    .groupBy(list.recipeId);
}

/** Lists the accounts that can sign in, with how many lists each leads. */
export function listAccountsWithLists(db: Queries) {
  return db
    .select({
      id: account.id,
      name: account.name,
      email: account.email,
      role: account.role,
      site: site.name,
      leads: count(list.id),
    })
    .from(account)
    .leftJoin(listRole, eq(listRole.accountId, account.id))
    .leftJoin(list, and(eq(list.id, listRole.listId), isNull(list.closedAt)))
    .leftJoin(site, eq(site.id, account.siteId))
    .where(accountInForce)
    .groupBy(account.id, site.name)
    .orderBy(account.createdAt);
}

import { alphabetical } from "../db/alphabetical";
import { eq, sql, inArray, and, isNull, count, gt, asc } from "drizzle-orm";
import type { HouseRole } from "@amigo/core/access/may";
import { instantAtEndOf } from "@amigo/core/schedule/dayIn";
import { hasSecondStep, accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { account, apiToken, signInStep, session } from "../db/schema/accounts";
import { site, season, house } from "../db/schema/house";
import { list, listRole } from "../db/schema/lists";
import { mailedLink } from "../db/schema/members";
import { fact } from "../db/schema/people";
import { sourceHelper, source } from "../db/schema/sources";

/** Makes an account, and returns its id; undefined where the address has one already. */
export async function storeAccount(
  db: Queries,
  name: string,
  email: string,
  role: HouseRole,
  siteId: number | null,
  lastDay: string,
) {
  const [found] = await db
    .insert(account)
    .values({
      name,
      email,
      role,
      siteId,
      endedAt: await endOf(db, lastDay),
    })
    .onConflictDoNothing()
    .returning({ id: account.id });
  return found;
}

async function endOf(tx: Queries, lastDay: string): Promise<Date | null> {
  if (lastDay === "") return null;
  const house = await loadHouse(tx);
  return instantAtEndOf(lastDay, house?.timeZone ?? "UTC");
}

/** Returns the name, role and site of an account, or undefined. */
export async function findRights(db: Queries, id: string) {
  const [found] = await db
    .select({
      name: account.name,
      role: account.role,
      siteId: account.siteId,
      endedAt: account.endedAt,
    })
    .from(account)
    .where(eq(account.id, id));
  return found;
}

/** Changes the role, site and last day of an account. */
export async function storeRights(
  db: Queries,
  role: HouseRole,
  siteId: number | null,
  lastDay: string,
  id: string,
): Promise<void> {
  await db
    .update(account)
    .set({ role, siteId, endedAt: await endOf(db, lastDay) })
    .where(eq(account.id, id));
}

/** Ends an account or lets it go on, and returns its name. */
export async function setEnded(db: Queries, ended: boolean, id: string) {
  const [found] = await db
    .update(account)
    .set({ endedAt: ended ? sql`now()` : null })
    .where(eq(account.id, id))
    .returning({ name: account.name });
  return found;
}

/** Takes all sources from a helper. */
export async function removeHelperSources(db: Queries, accountId: string): Promise<void> {
  await db.delete(sourceHelper).where(eq(sourceHelper.accountId, accountId));
}

/** Returns which of some sources there are. */
export function findSources(db: Queries, ids: readonly string[]) {
  return db
    .select({ id: source.id })
    .from(source)
    .where(inArray(source.id, [...ids]));
}

/** Gives a helper sources to add rows to. */
export async function storeHelperSources(
  db: Queries,
  sources: readonly { id: string }[],
  accountId: string,
): Promise<void> {
  await db
    .insert(sourceHelper)
    .values(sources.map((source) => ({ accountId, sourceId: source.id })));
}

/** Returns a coordinator who can sign in, or undefined where there is none. */
export async function findOtherCoordinator(db: Queries) {
  const [found] = await db
    .select({ id: account.id })
    .from(account)
    .where(
      and(
        eq(account.role, "coordinator"),
        isNull(account.endedAt),
        sql`${account.passwordHash} <> ''`,
      ),
    )
    .limit(1);
  return found;
}

/** Lists accounts as they stand among the facts. */
export function listStaffRows(db: Queries, ids: readonly string[]) {
  return db
    .select({
      id: account.id,
      name: account.name,
      email: account.email,
      role: account.role,
      site: site.name,
      inForce: sql<boolean>`${account.endedAt} is null or ${account.endedAt} > now()`,
    })
    .from(account)
    .leftJoin(site, eq(site.id, account.siteId))
    .where(inArray(account.id, [...ids]));
}

/** Lists accounts whose last day is over and who still stand among the facts. */
export function listEndedStaff(db: Queries) {
  return db
    .select({ id: account.id })
    .from(account)
    .innerJoin(season, eq(season.current, true))
    .where(
      and(
        sql`${account.endedAt} <= now()`,
        sql`exists (select 1 from ${fact} where ${fact.seasonId} = ${season.id} and ${fact.subject} = 'account:' || ${account.id} and ${fact.kind} = 'staff' and ${fact.validUntil} is null)`,
      ),
    );
}

/** Returns the site with a name, or undefined. */
export async function findSiteNamed(db: Queries, name: string) {
  const [found] = await db.select({ id: site.id }).from(site).where(eq(site.name, name));
  return found;
}

/** Removes every mailed link that would sign an account in or decide in its name. */
export async function removeLinksOf(db: Queries, accountId: string): Promise<void> {
  await db
    .delete(mailedLink)
    .where(
      and(
        inArray(mailedLink.purpose, ["invitation", "sign-in", "new password", "held mail"]),
        sql`(${mailedLink.about} = ${accountId} or ${mailedLink.about} like ${`% ${accountId}`})`,
      ),
    );
}

/** Revokes all API tokens and mail programs' passwords of an account. */
export async function revokeTokensOf(db: Queries, accountId: string): Promise<void> {
  await db
    .update(apiToken)
    .set({ revokedAt: sql`now()` })
    .where(and(eq(apiToken.accountId, accountId), isNull(apiToken.revokedAt)));
}

/** Ends sign-ins of an account that wait for their second step. */
export async function removeSignInSteps(db: Queries, accountId: string): Promise<void> {
  await db.delete(signInStep).where(eq(signInStep.accountId, accountId));
}

/** Makes earlier invitations of an account useless. */
export async function useUpInvitations(db: Queries, accountId: string): Promise<void> {
  await db
    .update(mailedLink)
    .set({ usedAt: sql`now()` })
    .where(
      and(
        eq(mailedLink.purpose, "invitation"),
        eq(mailedLink.about, accountId),
        isNull(mailedLink.usedAt),
      ),
    );
}

/** Lists the accounts that somebody may see, with how many lists each leads. */
export function listShownAccounts(
  db: Queries,
  role: HouseRole,
  siteId: number | null,
  accountId: string,
) {
  return db
    .select({ account, site: site.name, leads: count(list.id), hasSecondStep })
    .from(account)
    .leftJoin(site, eq(site.id, account.siteId))
    .leftJoin(listRole, eq(listRole.accountId, account.id))
    .leftJoin(list, and(eq(list.id, listRole.listId), isNull(list.closedAt)))
    .where(
      role === "coordinator"
        ? undefined
        : siteId === null
          ? eq(account.id, accountId)
          : eq(account.siteId, siteId),
    )
    .groupBy(account.id, site.name)
    .orderBy(
      sql`${account.endedAt} is not null and ${account.endedAt} <= now()`,
      alphabetical(account.name),
    );
}

/** Lists which helper may add rows to which source. */
export function listHelperSources(db: Queries) {
  return db
    .select({ accountId: sourceHelper.accountId, id: source.id, name: source.name })
    .from(sourceHelper)
    .innerJoin(source, eq(source.id, sourceHelper.sourceId));
}

/** Lists the sources of the current season by name. */
export function listCurrentSources(db: Queries) {
  return db
    .select({ id: source.id, name: source.name })
    .from(source)
    .innerJoin(season, eq(season.id, source.seasonId))
    .where(eq(season.current, true))
    .orderBy(alphabetical(source.name));
}

/** Lists the sessions of an account, oldest first. */
export function listSessions(db: Queries, accountId: string) {
  return db
    .select()
    .from(session)
    .where(and(eq(session.accountId, accountId), gt(session.expiresAt, sql`now()`)))
    .orderBy(asc(session.createdAt));
}

/** Ends one session of an account, and returns it; none where it is not theirs. */
export function removeSession(db: Queries, id: string, accountId: string) {
  return db
    .delete(session)
    .where(and(eq(session.id, id), eq(session.accountId, accountId)))
    .returning({ id: session.id });
}

/** Returns who can sign in with an address, with the house's name, or undefined. */
export async function findForLink(db: Queries, email: string) {
  const [found] = await db
    .select({
      id: account.id,
      name: account.name,
      house: house.name,
      passwordHash: account.passwordHash,
    })
    .from(account)
    .innerJoin(house, sql`true`)
    .where(and(eq(account.email, email), accountInForce));
  return found;
}

/** Returns whom a mailed link is for, with the house's name. */
export function findInvited(db: Queries, id: string) {
  return db
    .select({ name: account.name, email: account.email, house: house.name })
    .from(account)
    .innerJoin(house, sql`true`)
    .where(and(eq(account.id, id), accountInForce));
}

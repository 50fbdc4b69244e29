import { alphabetical } from "../db/alphabetical";
import type { SetUp } from "@amigo/contract/accounts";
import { eq, and, lt, sql, ne, isNotNull } from "drizzle-orm";
import type { z } from "zod";
import { accountInForce } from "../callers/inForce";
import { hashToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { account, signInAttempt, session } from "../db/schema/accounts";
import { draft } from "../db/schema/drafts";
import { house, season, site, picture } from "../db/schema/house";
import { mailedLink, memberSession } from "../db/schema/members";
import { hashPassword } from "./password";

export const SESSION_DAYS = 14;

/** Stores the settings of the house once, and returns its row; none where it is set up already. */
export function storeHouse(db: Queries, wanted: z.output<typeof SetUp>) {
  return db
    .insert(house)
    .values({
      id: 1,
      name: wanted.house,
      insideDomain: wanted.insideDomain,
      listDomain: wanted.listDomain,
      kind: wanted.kind,
      timeZone: wanted.timeZone,
      country: wanted.country,
      language: wanted.language,
    })
    .onConflictDoNothing()
    .returning();
}

/** Makes the house's first season, which is the current one. */
export async function storeFirstSeason(db: Queries, label: string) {
  const [found] = await db
    .insert(season)
    .values({ label, current: true })
    .returning({ id: season.id });
  return found;
}

/** Makes the account of the first coordinator. */
export async function storeFirstCoordinator(
  db: Queries,
  name: string,
  email: string,
  passwordHash: string,
) {
  const [found] = await db
    .insert(account)
    .values({ name, email, passwordHash, role: "coordinator" })
    .returning({ id: account.id });
  return found;
}

/** Returns the site with an id, or none. */
export function findSite(db: Queries, id: number) {
  return db.select().from(site).where(eq(site.id, id));
}

/** Returns the account that may sign in with an address, or undefined. */
export async function findAccountByEmail(db: Queries, email: string) {
  const [found] = await db
    .select()
    .from(account)
    .where(and(eq(account.email, email), accountInForce));
  return found;
}

/** Forgets the failed tries of an account after its password was right. */
export async function clearFailures(db: Queries, email: string): Promise<void> {
  await db.delete(signInAttempt).where(eq(signInAttempt.key, `account ${email}`));
}

/** Hashes a password again in the present manner, unless it was changed meanwhile. */
export async function renewHash(
  db: Queries,
  password: string,
  id: string,
  passwordHash: string,
): Promise<void> {
  await db
    .update(account)
    .set({ passwordHash: await hashPassword(password) })
    .where(and(eq(account.id, id), eq(account.passwordHash, passwordHash)));
}

/** Returns who may sign in with an address, or undefined. */
export async function findOwnerByEmail(db: Queries, email: string) {
  const [found] = await db
    .select({ id: account.id, name: account.name })
    .from(account)
    .where(and(eq(account.email, email), accountInForce));
  return found;
}

/** Removes the sessions whose time is over. */
export async function removeOverSessions(db: Queries): Promise<void> {
  await db.delete(session).where(lt(session.expiresAt, sql`now()`));
}

/** Stores a session by the hash of its token. */
export async function storeSession(
  db: Queries,
  token: string,
  accountId: string,
  browser: string,
): Promise<void> {
  await db.insert(session).values({
    tokenHash: hashToken(token),
    accountId,
    browser: browser.slice(0, 200),
    expiresAt: sql`now() + make_interval(days => ${SESSION_DAYS})`,
  });
}

/** Removes all sessions of an account but that of one token, and returns them. */
export function removeOtherSessions(db: Queries, accountId: string, token: string) {
  return db
    .delete(session)
    .where(and(eq(session.accountId, accountId), ne(session.tokenHash, hashToken(token))))
    .returning({ id: session.id });
}

/** Returns when the house's picture was changed last, or undefined where there is none. */
export async function pictureVersion(db: Queries) {
  const [found] = await db.select({ changedAt: picture.changedAt }).from(picture);
  return found;
}

/** Lists the accounts that can sign in, in the order in which they were made. */
export function listDemoAccounts(db: Queries) {
  return db
    .select({
      name: account.name,
      email: account.email,
      role: account.role,
      site: site.name,
    })
    .from(account)
    .leftJoin(site, eq(site.id, account.siteId))
    .where(accountInForce)
    .orderBy(account.createdAt);
}

/** Returns the account with an address, and whether the house is a demo. */
export async function findDemoAccount(db: Queries, email: string) {
  const [found] = await db
    .select({ id: account.id, name: account.name, demo: house.demo })
    .from(account)
    .innerJoin(house, eq(house.id, 1))
    .where(and(eq(account.email, email), accountInForce));
  return found;
}

/** Removes failed tries to sign in that are older than a day. */
export async function removeOldAttempts(db: Queries): Promise<void> {
  await db.delete(signInAttempt).where(lt(signInAttempt.at, sql`now() - interval '1 day'`));
}

/** Removes mailed links that ran out a month ago. */
export async function removeOldLinks(db: Queries): Promise<void> {
  await db.delete(mailedLink).where(lt(mailedLink.expiresAt, sql`now() - interval '30 days'`));
}

/** Removes drafts that were sent a day ago. */
export async function removeSentDrafts(db: Queries): Promise<void> {
  await db
    .delete(draft)
    .where(and(isNotNull(draft.postId), lt(draft.changedAt, sql`now() - interval '1 day'`)));
}

/** Removes sessions of member pages whose time is over. */
export async function removeOverMemberSessions(db: Queries): Promise<void> {
  await db.delete(memberSession).where(lt(memberSession.expiresAt, sql`now()`));
}

/** Returns the name and address of an account, or undefined. */
export async function findNameAndAddress(db: Queries, id: string) {
  const [found] = await db
    .select({ name: account.name, email: account.email })
    .from(account)
    .where(eq(account.id, id));
  return found;
}

/** Signs an account out everywhere. */
export async function removeSessions(db: Queries, accountId: string): Promise<void> {
  await db.delete(session).where(eq(session.accountId, accountId));
}

/** Returns the account with an id, or undefined. */
export async function findAccount(db: Queries, id: string) {
  const [found] = await db.select().from(account).where(eq(account.id, id));
  return found;
}

/** Returns the account with an id while it can sign in, or none. */
export function findInForce(db: Queries, id: string) {
  return db
    .select({
      id: account.id,
      name: account.name,
      email: account.email,
      role: account.role,
      siteId: account.siteId,
    })
    .from(account)
    .where(and(eq(account.id, id), accountInForce));
}

export async function endSession(db: Queries, token: string): Promise<void> {
  await db.delete(session).where(eq(session.tokenHash, hashToken(token)));
}

/** Lists the names of the accounts that can sign in. */
export function listNames(db: Queries) {
  return db
    .select({ id: account.id, name: account.name })
    .from(account)
    .where(accountInForce)
    .orderBy(alphabetical(account.name));
}

/** Lists the names and addresses of the coordinators who can sign in. */
export function listCoordinators(db: Queries) {
  return db
    .select({ id: account.id, name: account.name, email: account.email })
    .from(account)
    .where(and(eq(account.role, "coordinator"), accountInForce));
}

/** Stores the language in which an account reads the interface. */
export async function storeLanguage(
  db: Queries,
  accountId: string,
  language: string,
): Promise<void> {
  await db.update(account).set({ language }).where(eq(account.id, accountId));
}

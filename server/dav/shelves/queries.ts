import { alphabetical } from "../../db/alphabetical";
import { and, asc, eq, gt, isNull, lt, or, sql } from "drizzle-orm";
import type { Caller } from "../../callers/caller";
import type { Queries } from "../../db/connect";
import { season } from "../../db/schema/house";
import { list, membership, privateList } from "../../db/schema/lists";
import { davLock, shelfFolder } from "../../db/schema/shelf";
import { listsOf } from "../../membership/queries";

/** How long a lock lasts that isn't renewed, in seconds. */
export const LOCK_SECONDS = 600;

/** Lists the open lists of the current season that somebody looks after, by their titles. */
export function listShelves(db: Queries, caller: Caller) {
  return db
    .select({ id: list.id, title: list.title })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .where(and(eq(season.current, true), isNull(list.closedAt), listsOf(caller)))
    .orderBy(alphabetical(list.title), asc(list.id));
}

/** Lists an account's own private lists, by their names. */
export function listOwnPrivate(db: Queries, accountId: string) {
  return db
    .select({ id: privateList.id, title: privateList.name })
    .from(privateList)
    .where(eq(privateList.accountId, accountId))
    .orderBy(alphabetical(privateList.name), asc(privateList.id));
}

/** Lists the open lists that an address is on. */
export async function listListsNow(db: Queries, address: string): Promise<string[]> {
  const rows = await db
    .select({ id: list.id })
    .from(membership)
    .innerJoin(list, eq(list.id, membership.listId))
    .where(
      and(eq(membership.address, address), isNull(membership.validUntil), isNull(list.closedAt)),
    );
  return rows.map(({ id }) => id);
}

/** Lists the folders of a shelf that were made by a program. */
export async function listFolders(db: Queries, listId: string): Promise<string[]> {
  const rows = await db
    .select({ name: shelfFolder.name })
    .from(shelfFolder)
    .where(eq(shelfFolder.listId, listId));
  return rows.map(({ name }) => name);
}

/** Stores a folder of a shelf. */
export async function storeFolder(db: Queries, listId: string, name: string): Promise<void> {
  await db.insert(shelfFolder).values({ listId, name }).onConflictDoNothing();
}

/** Removes a folder of a shelf; what is in it has gone before. */
export async function removeFolder(db: Queries, listId: string, name: string): Promise<void> {
  await db
    .delete(shelfFolder)
    .where(and(eq(shelfFolder.listId, listId), eq(shelfFolder.name, name)));
}

/** A place on a shelf, without marks at its ends: empty for the shelf itself. */
export interface LockedPlace {
  listId: string;
  path: string;
}

const inForce = gt(davLock.expiresAt, sql`now()`);

/** Lists the locks that hold a place: on it, or above it where they hold all that is below, and for a folder those below. */
export function listLocks(db: Queries, { listId, path }: LockedPlace, withBelow: boolean) {
  const above = sql`${davLock.isDeep} and (${davLock.path} = '' or starts_with(${path}, ${davLock.path} || '/'))`;
  const below = path === "" ? sql`true` : sql`starts_with(${davLock.path}, ${`${path}/`})`;
  return db
    .select()
    .from(davLock)
    .where(
      and(
        eq(davLock.listId, listId),
        inForce,
        or(eq(davLock.path, path), above, withBelow ? below : undefined),
      ),
    );
}

export type LockRow = Awaited<ReturnType<typeof listLocks>>[number];

/** Makes others who lock a shelf wait until the transaction ends. */
export async function waitForLocks(tx: Queries, listId: string): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`locks ${listId}`}, 8))`);
}

/** Stores a lock, and removes those that have run out. */
export async function storeLock(
  tx: Queries,
  lock: Omit<typeof davLock.$inferInsert, "expiresAt">,
): Promise<LockRow> {
  await tx.delete(davLock).where(lt(davLock.expiresAt, sql`now()`));
  const [made] = await tx
    .insert(davLock)
    .values({ ...lock, expiresAt: new Date(Date.now() + LOCK_SECONDS * 1000) })
    .returning();
  if (made === undefined) throw new Error("the lock was not stored");
  return made;
}

/** Lets somebody's lock last on; returns it, or none where it is no more. */
export async function renewLock(
  db: Queries,
  token: string,
  accountId: string,
): Promise<LockRow | undefined> {
  const [renewed] = await db
    .update(davLock)
    .set({ expiresAt: new Date(Date.now() + LOCK_SECONDS * 1000) })
    .where(and(eq(davLock.token, token), eq(davLock.accountId, accountId), inForce))
    .returning();
  return renewed;
}

/** Ends somebody's lock; returns whether there was one. */
export async function endLock(db: Queries, token: string, accountId: string): Promise<boolean> {
  const ended = await db
    .delete(davLock)
    .where(and(eq(davLock.token, token), eq(davLock.accountId, accountId)))
    .returning({ token: davLock.token });
  return ended.length === 1;
}

/** Ends the locks on a place that is gone, and below it. */
export async function endLocksAt(db: Queries, { listId, path }: LockedPlace): Promise<void> {
  await db
    .delete(davLock)
    .where(
      and(
        eq(davLock.listId, listId),
        or(eq(davLock.path, path), sql`starts_with(${davLock.path}, ${`${path}/`})`),
      ),
    );
}

import { alphabetical } from "../db/alphabetical";
import { and, eq, inArray, isNull, or, sql } from "drizzle-orm";
import { accountInForce } from "../callers/inForce";
import { callerColumns, type Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { list, membership, privateList, privateListPerson } from "../db/schema/lists";
import { shelfPlace } from "../db/schema/shelf";
import { listsOf } from "../membership/queries";

const listId = sql<string>`coalesce(${shelfPlace.listId}, ${shelfPlace.privateListId})`;

/** Lists the shelves on which things are, with whether somebody looks after each: nobody else does after a private list's. */
export function listPlaces(db: Queries, things: readonly string[], caller: Caller) {
  return db
    .select({
      thing: shelfPlace.thingId,
      id: listId,
      title: sql<string>`coalesce(${list.title}, ${privateList.name})`,
      isPrivate: sql<boolean>`${privateList.id} is not null`,
      isOpen: sql<boolean>`${list.closedAt} is null`,
      isTheirs: sql<boolean>`coalesce(${privateList.accountId} = ${caller.id}, ${listsOf(caller)})`,
    })
    .from(shelfPlace)
    .leftJoin(list, eq(list.id, shelfPlace.listId))
    .leftJoin(privateList, eq(privateList.id, shelfPlace.privateListId))
    .where(inArray(shelfPlace.thingId, [...things]))
    .orderBy(alphabetical(list.title), alphabetical(privateList.name));
}

/**
 * Lists the lists of things, with whether they are open. Nobody on a private list knows of it: it goes by the name of its owner, and
 * is open as long as they have an account.
 */
export function listListsOfThings(db: Queries, things: readonly string[]) {
  return db
    .select({
      thing: shelfPlace.thingId,
      id: listId,
      title: sql<string>`coalesce(${list.title}, ${account.name})`,
      isOpen: sql<boolean>`${list.closedAt} is null and coalesce(${account.endedAt} > now(), true)`,
    })
    .from(shelfPlace)
    .leftJoin(list, eq(list.id, shelfPlace.listId))
    .leftJoin(privateList, eq(privateList.id, shelfPlace.privateListId))
    .leftJoin(account, eq(account.id, privateList.accountId))
    .where(inArray(shelfPlace.thingId, [...things]))
    .orderBy(alphabetical(list.title), alphabetical(account.name));
}

/** Puts a thing on the shelves of some lists and private lists, and takes it off those of others. */
export async function storePlaces(
  tx: Queries,
  thingId: string,
  wanted: readonly string[],
  off: readonly string[],
): Promise<void> {
  if (off.length > 0)
    await tx
      .delete(shelfPlace)
      .where(
        and(
          eq(shelfPlace.thingId, thingId),
          or(inArray(shelfPlace.listId, [...off]), inArray(shelfPlace.privateListId, [...off])),
        ),
      );
  if (wanted.length === 0) return;
  const rows = await tx
    .select({ id: privateList.id })
    .from(privateList)
    .where(inArray(privateList.id, [...wanted]));
  const isPrivate = new Set(rows.map(({ id }) => id));
  await tx
    .insert(shelfPlace)
    .values(
      wanted.map((id) =>
        isPrivate.has(id) ? { thingId, privateListId: id } : { thingId, listId: id },
      ),
    )
    .onConflictDoNothing();
}

/** Returns a private list of somebody's own, by its id. */
export async function findOwnPrivate(db: Queries, id: string, accountId: string) {
  const [found] = await db
    .select({ id: privateList.id, name: privateList.name })
    .from(privateList)
    .where(and(eq(privateList.id, id), eq(privateList.accountId, accountId)));
  return found;
}

/** Keeps those of some lists that aren't private, and returns their titles and rules. */
export function listPublic(db: Queries, ids: readonly string[]) {
  return db
    .select({ id: list.id, title: list.title, rules: list.rules })
    .from(list)
    .where(inArray(list.id, [...ids]));
}

/** Lists the times that addresses were on some lists: all of some addresses, or those that last of everybody. */
export function listSpells(db: Queries, lists: readonly string[], addresses?: readonly string[]) {
  return db
    .select({
      list: membership.listId,
      address: membership.address,
      from: membership.validFrom,
      until: membership.validUntil,
    })
    .from(membership)
    .where(
      and(
        inArray(membership.listId, [...lists]),
        addresses === undefined
          ? isNull(membership.validUntil)
          : inArray(membership.address, [...addresses]),
      ),
    );
}

/** Lists the lists that an address is on, or was. */
export async function listListsOf(db: Queries, address: string): Promise<string[]> {
  const rows = await db
    .selectDistinct({ id: membership.listId })
    .from(membership)
    .where(eq(membership.address, address));
  return rows.map(({ id }) => id);
}

/** Lists who is on some private lists, since when, and by whom they were put there, as long as those have an account. */
export function listPrivately(db: Queries, lists: readonly string[]) {
  return db
    .select({
      list: privateList.id,
      children: privateList.children,
      person: privateListPerson.person,
      since: privateListPerson.addedAt,
      owner: callerColumns,
    })
    .from(privateList)
    .innerJoin(privateListPerson, eq(privateListPerson.privateListId, privateList.id))
    .innerJoin(account, eq(account.id, privateList.accountId))
    .where(and(inArray(privateList.id, [...lists]), accountInForce));
}

/** Lists the private lists with something on their shelves. */
export async function listPrivateShelves(db: Queries): Promise<string[]> {
  const rows = await db
    .selectDistinct({ id: sql<string>`${shelfPlace.privateListId}` })
    .from(shelfPlace)
    .where(sql`${shelfPlace.privateListId} is not null`);
  return rows.map(({ id }) => id);
}

import { alphabetical } from "../db/alphabetical";
import { eq, sql, and, inArray } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { davLock, shelfFolder } from "../db/schema/shelf";
import { privateList, privateListPerson } from "../db/schema/lists";

/** Lists an account's private lists with their people. */
export function listPrivateRows(db: Queries, accountId: string) {
  return db
    .select({
      id: privateList.id,
      name: privateList.name,
      davName: privateList.davName,
      cardUid: privateList.cardUid,
      person: privateListPerson.person,
    })
    .from(privateList)
    .leftJoin(privateListPerson, eq(privateListPerson.privateListId, privateList.id))
    .where(eq(privateList.accountId, accountId))
    .orderBy(alphabetical(privateList.name));
}

/** Makes a private list, and returns its id; undefined where the account has one of its name. */
export async function storePrivateList(db: Queries, accountId: string, name: string) {
  const [found] = await db
    .insert(privateList)
    .values({ accountId, name })
    .onConflictDoNothing()
    .returning({ id: privateList.id });
  return found;
}

/** Stores under which name and id an address book program has put a private list. */
export async function nameCard(
  db: Queries,
  id: string,
  names: { davName: string; cardUid: string },
): Promise<void> {
  await db.update(privateList).set(names).where(eq(privateList.id, id));
}

/** Returns another private list of the account with a name. */
export async function findNamesake(db: Queries, accountId: string, name: string, id: string) {
  const [found] = await db
    .select({ id: privateList.id })
    .from(privateList)
    .where(
      and(
        eq(privateList.accountId, accountId),
        sql`lower(${privateList.name}) = lower(${name})`,
        sql`${privateList.id} <> ${id}`,
      ),
    );
  return found;
}

/** Gives a private list another name. */
export async function renamePrivateList(db: Queries, name: string, id: string): Promise<void> {
  await db.update(privateList).set({ name }).where(eq(privateList.id, id));
}

/** Stores whether a private list's children are written to themselves or through their guardians. */
export async function storeChildren(
  db: Queries,
  children: "guardians" | "themselves",
  id: string,
): Promise<void> {
  await db.update(privateList).set({ children }).where(eq(privateList.id, id));
}

/** Takes people off a private list. */
export async function removePeople(db: Queries, id: string, people: string[]): Promise<void> {
  await db
    .delete(privateListPerson)
    .where(and(eq(privateListPerson.privateListId, id), inArray(privateListPerson.person, people)));
}

/** Takes everybody off a private list. */
export async function removeAllPeople(db: Queries, id: string): Promise<void> {
  await db.delete(privateListPerson).where(eq(privateListPerson.privateListId, id));
}

/** Removes a private list. */
export async function removePrivateList(db: Queries, id: string): Promise<void> {
  await db.delete(privateList).where(eq(privateList.id, id));
}

/** Returns one's own private list. */
export async function findPrivateList(db: Queries, id: string, accountId: string) {
  const [found] = await db
    .select({ id: privateList.id, name: privateList.name, children: privateList.children })
    .from(privateList)
    .where(and(eq(privateList.id, id), eq(privateList.accountId, accountId)));
  return found;
}

/** Lists the people on a private list. */
export function listPrivatePeople(db: Queries, listId: string) {
  return db
    .select({ person: privateListPerson.person, name: privateListPerson.name })
    .from(privateListPerson)
    .where(eq(privateListPerson.privateListId, listId));
}

/** Puts people on a private list. */
export async function storePrivatePeople(
  db: Queries,
  people: { privateListId: string; person: string; name: string }[],
): Promise<void> {
  await db.insert(privateListPerson).values(people).onConflictDoNothing();
}

/** Ends the shelf of a private list: what is on no other is taken off, and its folders and locks go. */
export async function takeOffShelf(tx: Queries, id: string): Promise<void> {
  await tx.execute(sql`
    update shelf_thing as thing set taken_off_at = now()
    where thing.taken_off_at is null
      and exists (select from shelf_place as place where place.thing_id = thing.id and place.private_list_id = ${id})
      and not exists (select from shelf_place as place where place.thing_id = thing.id and place.private_list_id is distinct from ${id})`);
  await tx.delete(shelfFolder).where(eq(shelfFolder.listId, id));
  await tx.delete(davLock).where(eq(davLock.listId, id));
}

import { alphabetical } from "../db/alphabetical";
import { and, asc, desc, eq, inArray, isNull, sql, type SQL } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { list, membership, privateList } from "../db/schema/lists";
import {
  blob,
  shelfOpening,
  shelfOpenToMembers,
  shelfPlace,
  shelfThing,
  shelfVersion,
} from "../db/schema/shelf";
import { listsOf } from "../membership/queries";
import { storePlaces } from "./placeQueries";

/** A thing with the version of its file that holds; a link has none. */
const WITH_VERSION = {
  thing: shelfThing,
  name: shelfVersion.name,
  size: blob.size,
  blobId: shelfVersion.blobId,
  at: shelfVersion.at,
  damagedAt: blob.damagedAt,
};

function selectThings(db: Queries, condition: SQL | undefined) {
  return db
    .select(WITH_VERSION)
    .from(shelfThing)
    .leftJoin(
      shelfVersion,
      and(eq(shelfVersion.thingId, shelfThing.id), eq(shelfVersion.number, shelfThing.version)),
    )
    .leftJoin(blob, eq(blob.id, shelfVersion.blobId))
    .where(condition)
    .orderBy(alphabetical(shelfThing.folder), alphabetical(shelfThing.title), asc(shelfThing.id));
}

export type ThingRow = Awaited<ReturnType<typeof selectThings>>[number];

function isOnShelfOf(lists: SQL, privateLists: SQL): SQL {
  return sql`exists (select 1 from ${shelfPlace} where ${shelfPlace.thingId} = ${shelfThing.id} and (${shelfPlace.listId} in (${lists}) or ${shelfPlace.privateListId} in (${privateLists})))`;
}

/** Lists what is on some lists' and private lists' shelves. */
export function listThings(db: Queries, lists: readonly string[]): Promise<ThingRow[]> {
  if (lists.length === 0) return Promise.resolve([]);
  const wanted = sql.join(
    lists.map((id) => sql`${id}::uuid`),
    sql`, `,
  );
  return selectThings(db, and(isNull(shelfThing.takenOffAt), isOnShelfOf(wanted, wanted)));
}

/** Returns a thing on a shelf that somebody looks after. */
export async function findThing(
  db: Queries,
  id: string,
  caller: Caller,
): Promise<ThingRow | undefined> {
  const theirs = sql`select ${list.id} from ${list} where ${listsOf(caller)}`;
  const theirPrivate = sql`select ${privateList.id} from ${privateList} where ${privateList.accountId} = ${caller.id}`;
  const [found] = await selectThings(
    db,
    and(eq(shelfThing.id, id), isNull(shelfThing.takenOffAt), isOnShelfOf(theirs, theirPrivate)),
  );
  return found;
}

/** Returns a thing, whoever asks. */
export async function findAnyThing(db: Queries, id: string): Promise<ThingRow | undefined> {
  const [found] = await selectThings(db, eq(shelfThing.id, id));
  return found;
}

/** Makes others who change a thing wait until the transaction ends, and returns it. */
export async function lockThing(tx: Queries, id: string) {
  const [found] = await tx.select().from(shelfThing).where(eq(shelfThing.id, id)).for("update");
  return found;
}

/** Stores a new thing on a list's shelf. */
export async function storeThing(
  tx: Queries,
  thing: typeof shelfThing.$inferInsert,
  listId: string,
): Promise<string> {
  const [made] = await tx.insert(shelfThing).values(thing).returning({ id: shelfThing.id });
  if (made === undefined) throw new Error("the thing was not stored");
  await storePlaces(tx, made.id, [listId], []);
  return made.id;
}

/** Stores a version of a file. */
export async function storeVersion(
  tx: Queries,
  version: typeof shelfVersion.$inferInsert,
): Promise<void> {
  await tx.insert(shelfVersion).values(version);
}

/** Stores under which name a version of a file goes. */
export async function storeVersionName(
  tx: Queries,
  thingId: string,
  number: number,
  name: string,
): Promise<void> {
  await tx
    .update(shelfVersion)
    .set({ name })
    .where(and(eq(shelfVersion.thingId, thingId), eq(shelfVersion.number, number)));
}

/** Stores what has changed of a thing. */
export async function storeChange(
  tx: Queries,
  id: string,
  changed: Partial<typeof shelfThing.$inferInsert>,
): Promise<void> {
  await tx.update(shelfThing).set(changed).where(eq(shelfThing.id, id));
}

/** Lists who has opened things, and when they did last. */
export function listOpenings(db: Queries, things: readonly string[]) {
  return db
    .select()
    .from(shelfOpening)
    .where(inArray(shelfOpening.thingId, [...things]));
}

/** Notes that a member has opened a thing; returns whether it was the first time. */
export async function storeOpening(
  db: Queries,
  thingId: string,
  address: string,
): Promise<boolean> {
  const [stored] = await db
    .insert(shelfOpening)
    .values({ thingId, address })
    .onConflictDoUpdate({
      target: [shelfOpening.thingId, shelfOpening.address],
      set: { lastAt: sql`now()` },
    })
    .returning({ isNew: sql<boolean>`xmax = 0` });
  return stored?.isNew === true;
}

/** Lists the versions of a file, the newest first. */
export function listVersions(db: Queries, thing: string) {
  return db
    .select({
      number: shelfVersion.number,
      name: shelfVersion.name,
      by: shelfVersion.by,
      at: shelfVersion.at,
      size: blob.size,
      hash: blob.hash,
      blobId: shelfVersion.blobId,
    })
    .from(shelfVersion)
    .innerJoin(blob, eq(blob.id, shelfVersion.blobId))
    .where(eq(shelfVersion.thingId, thing))
    .orderBy(desc(shelfVersion.number));
}

/** Removes what was taken off all shelves a month ago. */
export async function removeTakenOff(db: Queries): Promise<void> {
  await db.delete(shelfThing).where(sql`${shelfThing.takenOffAt} < now() - interval '30 days'`);
}

/** The lists whose shelves are open to their members' own things, of those that an address is on now. */
function selectAddable(db: Queries, address: string, condition: SQL | undefined) {
  return db
    .select({ id: list.id, title: list.title })
    .from(membership)
    .innerJoin(list, eq(list.id, membership.listId))
    .innerJoin(shelfOpenToMembers, eq(shelfOpenToMembers.listId, list.id))
    .where(
      and(
        eq(membership.address, address),
        isNull(membership.validUntil),
        isNull(list.closedAt),
        condition,
      ),
    )
    .groupBy(list.id)
    .orderBy(alphabetical(list.title));
}

/** Lists the lists to whose shelves a member may add something. */
export function listAddable(db: Queries, address: string) {
  return selectAddable(db, address, undefined);
}

/** Tells whether a member may add something to a list's shelf. */
export async function isAddableBy(db: Queries, id: string, address: string): Promise<boolean> {
  return (await selectAddable(db, address, eq(list.id, id))).length > 0;
}

/** Tells whether members may add things of their own to a list's shelf. */
export async function isOpenToMembers(db: Queries, listId: string): Promise<boolean> {
  const found = await db
    .select()
    .from(shelfOpenToMembers)
    .where(eq(shelfOpenToMembers.listId, listId));
  return found.length > 0;
}

/** Stores whether members may add things of their own to a list's shelf. */
export async function storeOpenToMembers(
  tx: Queries,
  listId: string,
  isOpen: boolean,
): Promise<void> {
  if (isOpen) await tx.insert(shelfOpenToMembers).values({ listId }).onConflictDoNothing();
  else await tx.delete(shelfOpenToMembers).where(eq(shelfOpenToMembers.listId, listId));
}

/** Lists those of some addresses to which mail goes out: it hasn't stopped, and their owners haven't paused it. */
export async function listMailed(db: Queries, addresses: readonly string[]): Promise<string[]> {
  const { rows } = await db.execute<{ address: string }>(sql`
    select own.address from unnest(${sql.param([...addresses])}::text[]) as own(address)
    where not exists (select from address_trouble as trouble where trouble.address = own.address and trouble.state = 'stopped')
      and not exists (select from pause, house where pause.address = own.address and pause.until >= (now() at time zone house.time_zone)::date)
    order by own.address`);
  return rows.map(({ address }) => address);
}

import { and, eq, isNotNull, isNull, sql } from "drizzle-orm";
import type { Database, Queries } from "../db/connect";
import { readOctets, writeOctets } from "../db/copyOctets";
import { blob } from "../db/schema/shelf";
import type { ObjectStore } from "./objectStore";

const ID = /^[0-9a-f-]{36}$/;

/** Where octets are kept: the database, and the store of objects where the settings name one. */
export interface Keeping {
  db: Database;
  objects: ObjectStore | undefined;
}

/** Begins to keep octets, in the store of objects where there is one; returns the id under which they will be. */
export async function storeBlobRow(db: Queries, objects: ObjectStore | undefined): Promise<string> {
  const store = objects === undefined ? "database" : "objects";
  const [made] = await db.insert(blob).values({ store }).returning({ id: blob.id });
  if (made === undefined) throw new Error("the octets were not stored");
  return made.id;
}

/** Returns the store of objects in which octets are; undefined for the database. */
export async function storeOf(
  { db, objects }: Keeping,
  blobId: string,
): Promise<ObjectStore | undefined> {
  const [found] = await db.select({ store: blob.store }).from(blob).where(eq(blob.id, blobId));
  if (found?.store !== "objects") return undefined;
  if (objects === undefined)
    throw new Error("a file is in a store of objects, and AMIGO_SHELF_STORE names none");
  return objects;
}

/** The key of a part in the store of objects. */
function keyOf(blobId: string, position: number): string {
  return `${blobId}/${position}`;
}

/**
 * Stores parts of the octets that follow on one another. The database doesn't wait until they are on the disk: they count only once
 * the row of all of them does, which is written after them and is waited for.
 *
 * @param objects   the store in which they are (`storeOf`); undefined for the database
 * @param alongside what is written in the same transaction, before the parts
 */
export async function storeParts(
  db: Database,
  objects: ObjectStore | undefined,
  blobId: string,
  first: number,
  parts: readonly Buffer[],
  alongside: (tx: Queries) => Promise<void> | undefined = () => undefined,
): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.execute(sql`set local synchronous_commit = off`);
    await alongside(tx);
    if (objects !== undefined) {
      await Promise.all(
        parts.map((content, at) => objects.put(keyOf(blobId, first + at), content)),
      );
      return;
    }
    await writeOctets(
      tx,
      "blob_part (blob_id, position, content)",
      parts.map((content, at) => ({ id: blobId, position: first + at, content })),
    );
  });
}

/** Says that all of the octets are there. What had the same octets, and has lost them, has these from now on. */
export async function finishBlob(
  db: Database,
  id: string,
  hash: string,
  size: number,
): Promise<void> {
  await db.transaction(async (tx) => {
    // It counts as new from now on, so that nothing removes it before a thing has it.
    await tx
      .update(blob)
      .set({ hash, size, madeAt: sql`now()` })
      .where(eq(blob.id, id));
    await tx.execute(
      sql`update shelf_version set blob_id = ${id} where blob_id in (select id from blob where hash = ${hash} and damaged_at is not null)`,
    );
  });
}

/** Whether the virus scanner has found nothing in octets before. */
export async function isScanned(db: Queries, id: string): Promise<boolean> {
  const [found] = await db.select({ at: blob.scannedAt }).from(blob).where(eq(blob.id, id));
  return found !== undefined && found.at !== null;
}

/** Stores that the virus scanner has found nothing in octets. */
export async function storeScanned(db: Queries, id: string): Promise<void> {
  await db
    .update(blob)
    .set({ scannedAt: sql`now()` })
    .where(eq(blob.id, id));
}

/** Lists octets that weren't compared with their checksum for some days, first those for which it is longest ago. */
export function listUnproved(db: Queries, days: number, most: number) {
  return db
    .select({ id: blob.id, size: blob.size, hash: blob.hash, damagedAt: blob.damagedAt })
    .from(blob)
    .where(
      and(
        isNotNull(blob.hash),
        sql`coalesce(${blob.provedAt}, ${blob.madeAt}) < now() - make_interval(days => ${days})`,
      ),
    )
    .orderBy(sql`coalesce(${blob.provedAt}, ${blob.madeAt})`)
    .limit(most);
}

/** Stores whether octets are those that came; returns whether they are still kept. */
export async function storeProof(db: Queries, id: string, isDamaged: boolean): Promise<boolean> {
  const damagedAt = isDamaged ? sql`coalesce(${blob.damagedAt}, now())` : null;
  const stored = await db
    .update(blob)
    .set({ provedAt: sql`now()`, damagedAt })
    .where(eq(blob.id, id))
    .returning({ id: blob.id });
  return stored.length === 1;
}

/** Returns the id of octets with a checksum, which are to be used again: they count as new, so that nothing removes them meanwhile. */
export async function useBlobAgain(db: Queries, hash: string): Promise<string | undefined> {
  const [found] = await db
    .update(blob)
    .set({ madeAt: sql`now()` })
    .where(and(eq(blob.hash, hash), isNull(blob.damagedAt)))
    .returning({ id: blob.id });
  return found?.id;
}

/** Counts the octets of everything that is kept, or will be once it has come. */
export async function countOctets(db: Queries): Promise<number> {
  const { rows } = await db.execute<{ size: string }>(
    sql`select coalesce((select sum(size) from blob), 0) + coalesce((select sum(size) from upload), 0) as size`,
  );
  return Number(rows[0]?.size ?? 0);
}

/** Removes octets with all their parts. */
export async function removeBlob(keeping: Keeping, id: string): Promise<void> {
  const objects = await storeOf(keeping, id);
  await objects?.removeAll(`${id}/`);
  await keeping.db.delete(blob).where(eq(blob.id, id));
}

/**
 * Reads some parts of the octets, one after the other from one to another, in order.
 *
 * @param objects the store in which they are (`storeOf`); undefined for the database
 */
export async function readParts(
  db: Database,
  objects: ObjectStore | undefined,
  blobId: string,
  first: number,
  last: number,
): Promise<Buffer[]> {
  if (!ID.test(blobId)) throw new Error("not the id of octets");
  if (objects !== undefined) {
    const positions = Array.from({ length: last - first + 1 }, (_, at) => first + at);
    const found = await Promise.all(positions.map((at) => objects.get(keyOf(blobId, at))));
    // What follows on a part that is missing is of no use.
    const missing = found.indexOf(undefined);
    return found.slice(0, missing < 0 ? undefined : missing).flatMap((part) => part ?? []);
  }
  const range = sql.raw(`'${blobId}' and position between ${Number(first)} and ${Number(last)}`);
  return readOctets(
    db,
    sql`select content from blob_part where blob_id = ${range} order by position`,
  );
}

/** Octets that no version of anything has any more, and what broke off. */
const isLoose = and(
  sql`${blob.madeAt} < now() - interval '1 day'`,
  sql`not exists (select 1 from shelf_version where shelf_version.blob_id = ${blob.id})`,
);

/** Lists octets that no version of anything has any more, and what broke off. */
export function listLooseBlobs(db: Queries) {
  return db.select({ id: blob.id }).from(blob).where(isLoose);
}

/** Removes octets if no version of anything has them still; returns whether it did. */
export function removeLooseBlob({ db, objects }: Keeping, id: string): Promise<boolean> {
  return db.transaction(async (tx) => {
    // Whoever wants to use them again meanwhile waits, and finds none.
    const [found] = await tx
      .select({ store: blob.store })
      .from(blob)
      .where(and(eq(blob.id, id), isLoose))
      .for("update", { skipLocked: true });
    if (found === undefined || (found.store === "objects" && objects === undefined)) return false;
    if (found.store === "objects") await objects?.removeAll(`${id}/`);
    await tx.delete(blob).where(eq(blob.id, id));
    return true;
  });
}

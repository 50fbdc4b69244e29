import { and, eq, isNotNull, isNull, sql } from "drizzle-orm";
import type { Database, Queries } from "../db/connect";
import { readOctets, writeOctets } from "../db/copyOctets";
import { blob } from "../db/schema/shelf";

const ID = /^[0-9a-f-]{36}$/;

/** Begins to keep octets; returns the id under which they will be. */
export async function storeBlobRow(db: Queries): Promise<string> {
  const [made] = await db.insert(blob).values({}).returning({ id: blob.id });
  if (made === undefined) throw new Error("the octets were not stored");
  return made.id;
}

/**
 * Stores parts of the octets that follow on one another. It doesn't wait until they are on the disk: they count only once the row
 * of all of them does, which is written after them and is waited for.
 *
 * @param alongside what is written in the same transaction
 */
export async function storeParts(
  db: Database,
  blobId: string,
  first: number,
  parts: readonly Buffer[],
  alongside: (tx: Queries) => Promise<void> | undefined = () => undefined,
): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.execute(sql`set local synchronous_commit = off`);
    await alongside(tx);
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
export async function removeBlob(db: Queries, id: string): Promise<void> {
  await db.delete(blob).where(eq(blob.id, id));
}

/** Reads some parts of the octets, one after the other from one to another, in order. */
export function readParts(
  db: Database,
  blobId: string,
  first: number,
  last: number,
): Promise<Buffer[]> {
  if (!ID.test(blobId)) throw new Error("not the id of octets");
  const range = sql.raw(`'${blobId}' and position between ${Number(first)} and ${Number(last)}`);
  return readOctets(
    db,
    sql`select content from blob_part where blob_id = ${range} order by position`,
  );
}

/** Removes octets that no version of anything has any more, and what broke off; returns how many. */
export async function removeLooseBlobs(db: Queries): Promise<number> {
  const rows = await db
    .delete(blob)
    .where(
      and(
        sql`${blob.madeAt} < now() - interval '1 day'`,
        sql`not exists (select 1 from shelf_version where shelf_version.blob_id = ${blob.id})`,
      ),
    )
    .returning({ id: blob.id });
  return rows.length;
}

import { and, eq, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { blob, blobPart } from "../db/schema/shelf";

/** Begins to keep octets; returns the id under which they will be. */
export async function storeBlobRow(db: Queries): Promise<string> {
  const [made] = await db.insert(blob).values({}).returning({ id: blob.id });
  if (made === undefined) throw new Error("the octets were not stored");
  return made.id;
}

/** Stores one part of the octets. */
export async function storePart(
  db: Queries,
  blobId: string,
  position: number,
  content: Buffer,
): Promise<void> {
  await db.insert(blobPart).values({ blobId, position, content });
}

/** Says that all of the octets are there. */
export async function finishBlob(
  db: Queries,
  id: string,
  hash: string,
  size: number,
): Promise<void> {
  await db.update(blob).set({ hash, size }).where(eq(blob.id, id));
}

/** Returns the id of octets with a checksum, which are to be used again: they count as new, so that nothing removes them meanwhile. */
export async function useBlobAgain(db: Queries, hash: string): Promise<string | undefined> {
  const [found] = await db
    .update(blob)
    .set({ madeAt: sql`now()` })
    .where(eq(blob.hash, hash))
    .returning({ id: blob.id });
  return found?.id;
}

/** Counts the octets of everything that is kept. */
export async function countOctets(db: Queries): Promise<number> {
  const [found] = await db.select({ size: sql<string | null>`sum(${blob.size})` }).from(blob);
  return Number(found?.size ?? 0);
}

/** Removes octets with all their parts. */
export async function removeBlob(db: Queries, id: string): Promise<void> {
  await db.delete(blob).where(eq(blob.id, id));
}

/** Reads one part of the octets. */
export async function readPart(
  db: Queries,
  blobId: string,
  position: number,
): Promise<Buffer | undefined> {
  const [found] = await db
    .select({ content: blobPart.content })
    .from(blobPart)
    .where(and(eq(blobPart.blobId, blobId), eq(blobPart.position, position)));
  return found?.content;
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

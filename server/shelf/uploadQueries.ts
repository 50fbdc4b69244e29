import { and, eq, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { upload } from "../db/schema/shelf";
import type { Author } from "./author";

/** Makes others who begin to send a file wait until the transaction ends. */
export async function waitForUploads(tx: Queries): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended('uploads', 9))`);
}

/** Begins a file that comes piece by piece; returns its id. */
export async function storeUpload(
  db: Queries,
  of: Author,
  blobId: string,
  size: number,
): Promise<string> {
  const { accountId, address } = of;
  const [made] = await db
    .insert(upload)
    .values({ blobId, size, accountId, address })
    .returning({ id: upload.id });
  if (made === undefined) throw new Error("the upload was not stored");
  return made.id;
}

/** Counts the files that somebody is sending piece by piece. */
export async function countUploads(db: Queries, of: Author): Promise<number> {
  const [found] = await db
    .select({ count: sql<number>`count(*)::int` })
    .from(upload)
    .where(theirs(of));
  return found?.count ?? 0;
}

function theirs({ accountId, address }: Author) {
  return accountId === null ? eq(upload.address, address ?? "") : eq(upload.accountId, accountId);
}

/** Returns a file that somebody is sending piece by piece. */
export async function findUpload(db: Queries, of: Author, id: string) {
  const [found] = await db
    .select()
    .from(upload)
    .where(and(eq(upload.id, id), theirs(of)));
  return found;
}

export type UploadRow = NonNullable<Awaited<ReturnType<typeof findUpload>>>;

/** Counts parts that have come, if they follow on those that came before; returns whether they do. */
export async function countParts(
  tx: Queries,
  id: string,
  { first, parts, octets }: { first: number; parts: number; octets: number },
): Promise<boolean> {
  const rows = await tx
    .update(upload)
    .set({
      parts: sql`${upload.parts} + ${parts}`,
      received: sql`${upload.received} + ${octets}`,
    })
    .where(and(eq(upload.id, id), eq(upload.parts, first)))
    .returning({ id: upload.id });
  return rows.length === 1;
}

/** Forgets that a file came piece by piece, once it is kept as any other. */
export async function removeUpload(db: Queries, id: string): Promise<void> {
  await db.delete(upload).where(eq(upload.id, id));
}

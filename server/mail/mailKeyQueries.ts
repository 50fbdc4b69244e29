import { asc, eq, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { houseKey, mailKey } from "../db/schema/mailKeys";

export type MailKeyRow = typeof mailKey.$inferSelect;

/** Returns the fingerprint of the house's key; undefined where none was kept yet. */
export async function findFingerprint(db: Queries): Promise<string | undefined> {
  const [row] = await db.select({ fingerprint: houseKey.fingerprint }).from(houseKey);
  return row?.fingerprint;
}

/** Keeps the fingerprint of the house's key unless there is one, and returns the one that counts. */
export async function keepFingerprint(db: Queries, fingerprint: string): Promise<string> {
  await db.insert(houseKey).values({ fingerprint }).onConflictDoNothing();
  return (await findFingerprint(db)) ?? fingerprint;
}

/** Forgets which key is the house's, and all that only it can open. */
export async function forgetKeys(db: Queries): Promise<void> {
  await db.delete(mailKey);
  await db.delete(houseKey);
}

/** Returns all keys that sign mail, did or will, oldest first. */
export async function listMailKeys(db: Queries): Promise<MailKeyRow[]> {
  return db.select().from(mailKey).orderBy(asc(mailKey.madeAt), asc(mailKey.selector));
}

/** Returns all of them, and lets nobody else change any until the transaction ends. */
export async function lockMailKeys(tx: Queries): Promise<MailKeyRow[]> {
  await tx.execute(sql`lock table ${mailKey} in share row exclusive mode`);
  return listMailKeys(tx);
}

/** Keeps a new key; does nothing where there is one of this name. */
export async function addMailKey(
  db: Queries,
  key: Omit<MailKeyRow, "madeAt" | "since">,
): Promise<void> {
  await db.insert(mailKey).values(key).onConflictDoNothing();
}

/** Lets a key sign, or ends that. */
export async function setMailKeyState(
  tx: Queries,
  selector: string,
  state: MailKeyRow["state"],
): Promise<void> {
  await tx.update(mailKey).set({ state, since: new Date() }).where(eq(mailKey.selector, selector));
}

export async function removeMailKey(tx: Queries, selector: string): Promise<void> {
  await tx.delete(mailKey).where(eq(mailKey.selector, selector));
}

import { isNull, and, eq, sql, lt } from "drizzle-orm";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { authenticator, passkey, account } from "../db/schema/accounts";

/** Stores an authenticator app that is not confirmed yet; returns none where another one is confirmed. */
export function storeAuthenticator(db: Queries, accountId: string, sealed: string) {
  return db
    .insert(authenticator)
    .values({ accountId, sealed })
    .onConflictDoUpdate({
      target: authenticator.accountId,
      set: { sealed, lastStep: 0 },
      setWhere: isNull(authenticator.confirmedAt),
    })
    .returning({ id: authenticator.accountId });
}

/** Returns the authenticator app that waits to be confirmed, locked, or undefined. */
export async function lockUnconfirmed(db: Queries, accountId: string) {
  const [found] = await db
    .select()
    .from(authenticator)
    .where(and(eq(authenticator.accountId, accountId), isNull(authenticator.confirmedAt)))
    .for("update");
  return found;
}

/** Confirms an authenticator app by the step of its first code. */
export async function markConfirmed(db: Queries, step: number, accountId: string): Promise<void> {
  await db
    .update(authenticator)
    .set({ confirmedAt: sql`now()`, lastStep: step })
    .where(eq(authenticator.accountId, accountId));
}

/** Removes an account's authenticator app, and returns it. */
export function removeAuthenticatorOf(db: Queries, accountId: string) {
  return db
    .delete(authenticator)
    .where(eq(authenticator.accountId, accountId))
    .returning({ id: authenticator.accountId });
}

/** Stores a passkey; returns none where it is there already. */
export function storePasskey(
  db: Queries,
  made: Omit<typeof passkey.$inferInsert, "accountId" | "name">,
  accountId: string,
  name: string,
) {
  return db
    .insert(passkey)
    .values({ ...made, accountId, name })
    .onConflictDoNothing()
    .returning({ id: passkey.id });
}

/** Removes one passkey of an account, and returns its name. */
export async function removePasskeyOf(db: Queries, id: string, accountId: string) {
  const [found] = await db
    .delete(passkey)
    .where(and(eq(passkey.id, id), eq(passkey.accountId, accountId)))
    .returning({ name: passkey.name });
  return found;
}

/** Returns an account's authenticator app, or undefined. */
export async function findAuthenticator(db: Queries, accountId: string) {
  const [found] = await db
    .select()
    .from(authenticator)
    .where(eq(authenticator.accountId, accountId));
  return found;
}

/** Returns an account's authenticator app if it is confirmed. */
export async function findConfirmedAuthenticator(db: Queries, accountId: string) {
  const [found] = await db
    .select()
    .from(authenticator)
    .where(
      and(eq(authenticator.accountId, accountId), sql`${authenticator.confirmedAt} is not null`),
    );
  return found;
}

/** Uses up the step of a code; returns none where it, or a later one, was used before. */
export function useCode(db: Queries, step: number, accountId: string) {
  return db
    .update(authenticator)
    .set({ lastStep: step })
    .where(and(eq(authenticator.accountId, accountId), lt(authenticator.lastStep, step)))
    .returning({ id: authenticator.accountId });
}

/** Returns a passkey and its owner by its credential id, while the owner can sign in. */
export function findPasskey(db: Queries, credentialId: string) {
  return db
    .select({
      own: passkey,
      who: { id: account.id, name: account.name, email: account.email },
    })
    .from(passkey)
    .innerJoin(account, eq(account.id, passkey.accountId))
    .where(and(eq(passkey.credentialId, credentialId), accountInForce));
}

/** Stores that a passkey was used, with its counter. */
export async function countPasskeyUse(
  db: Queries,
  counter: number,
  passkeyUsed: { id: string },
): Promise<void> {
  await db
    .update(passkey)
    .set({ counter, lastUsedAt: sql`now()` })
    .where(eq(passkey.id, passkeyUsed.id));
}

import { and, eq, lt, ne, sql } from "drizzle-orm";
import type { Database, Queries } from "../db/connect";
import { Refusal } from "../http/fault";
import { notify } from "../events/events";
import { countTry, forgiveTry, type TryLimit } from "../http/limitTries";
import { record } from "../journal/record";
import { hashPassword, isOutdated, passwordMatches } from "./password";
import { hashToken, makeToken } from "../callers/tokens";
import { t } from "../texts/t";
import { accountInForce } from "../callers/inForce";
import { account, session, signInAttempt } from "../db/schema/accounts";

/** Attempts that are let pass in a quarter of an hour: for one account, from one network, and in all. */
const TRIES_PER_ACCOUNT = 8;
const TRIES_PER_NETWORK = 40;
const TRIES_IN_ALL = 2_000;
const MINUTES = 15;
export const SESSION_DAYS = 14;

let decoy: Promise<string> | undefined;

/**
 * Checks an address and a password. Wrong and unknown are answered alike and take as long.
 *
 * @param from the network of the caller, for the limit on attempts
 * @throws Refusal 401, or 429 when there were too many failed attempts
 */
export async function checkPassword(
  db: Database,
  email: string,
  password: string,
  from: string,
): Promise<{ id: string; name: string; email: string }> {
  const counted = await countTry(db, signInLimits(email, from));
  if (counted === undefined) throw tooManySignIns();
  const [found] = await db
    .select()
    .from(account)
    .where(and(eq(account.email, email), accountInForce));
  decoy ??= hashPassword(makeToken());
  const matches = await passwordMatches(password, found?.passwordHash || (await decoy));
  if (found === undefined || !matches) {
    await recordFailure(db, email, from);
    throw new Refusal(401, "sign-in/wrong", t("accounts.addressAndPasswordDoNot"), "password");
  }
  await forgiveTry(db, counted);
  await db.delete(signInAttempt).where(eq(signInAttempt.key, `account ${email}`));
  if (isOutdated(found.passwordHash))
    await db
      .update(account)
      .set({ passwordHash: await hashPassword(password) })
      .where(and(eq(account.id, found.id), eq(account.passwordHash, found.passwordHash)));
  return { id: found.id, name: found.name, email: found.email };
}

/** Puts a failed attempt into the journal, where there is an account for the address. */
export async function recordFailure(db: Queries, email: string, from: string): Promise<void> {
  const [found] = await db
    .select({ id: account.id, name: account.name })
    .from(account)
    .where(and(eq(account.email, email), accountInForce));
  if (found !== undefined)
    await record(db, {
      actorId: found.id,
      actor: found.name,
      action: "failed sign-in",
      sentence: t("accounts.somebodyTriedToSignIn", { name: found.name, from }),
    });
}

/** How often somebody may try to sign in. */
export function signInLimits(email: string, from: string): TryLimit[] {
  return [
    { key: `account ${email}`, most: TRIES_PER_ACCOUNT, minutes: MINUTES },
    { key: `address ${from}`, most: TRIES_PER_NETWORK, minutes: MINUTES },
    { key: "everybody", most: TRIES_IN_ALL, minutes: MINUTES },
  ];
}

export const tooManySignIns = (): Refusal =>
  new Refusal(429, "sign-in/too-many", t("accounts.thereWereTooManyAttempts"));

/** Starts a session and answers its secret, which goes into the cookie and nowhere else. */
export async function startSession(
  db: Queries,
  accountId: string,
  browser: string,
): Promise<string> {
  const token = makeToken();
  await db.delete(session).where(lt(session.expiresAt, sql`now()`));
  await db.insert(session).values({
    tokenHash: hashToken(token),
    accountId,
    browser: browser.slice(0, 200),
    expiresAt: sql`now() + make_interval(days => ${SESSION_DAYS})`,
  });
  return token;
}

export async function endSession(db: Queries, token: string): Promise<void> {
  await db.delete(session).where(eq(session.tokenHash, hashToken(token)));
}

/** Ends all sessions of an account but the one with a secret. Returns how many. */
export async function endOtherSessions(
  db: Queries,
  accountId: string,
  token: string,
): Promise<number> {
  const ended = await db
    .delete(session)
    .where(and(eq(session.accountId, accountId), ne(session.tokenHash, hashToken(token))))
    .returning({ id: session.id });
  // Pages that listen look whether they still may.
  await notify(db, "house");
  return ended.length;
}

import { and, count, eq, gt, inArray, lt, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { account, session, signInAttempt } from "../db/schema";
import { Refusal } from "../http/fault";
import { hashPassword, passwordMatches } from "./password";
import { accountInForce } from "../callers/caller";
import { hashToken, makeToken } from "../callers/tokens";

/** Failed attempts that are let pass in a quarter of an hour, for one account and from one address. */
const TRIES_PER_ACCOUNT = 8;
const TRIES_PER_ADDRESS = 40;
export const SESSION_DAYS = 14;

let decoy: Promise<string> | undefined;

/**
 * Checks an address and a password. Wrong and unknown are answered alike and take as long.
 *
 * @param from the network address of the caller, for the limit on attempts
 * @throws Refusal 401, or 429 when there were too many failed attempts
 */
export async function checkPassword(
  db: Queries,
  email: string,
  password: string,
  from: string,
): Promise<{ id: string; name: string; email: string }> {
  const keys = [`account ${email}`, `address ${from}`];
  const rows = await db
    .select({ key: signInAttempt.key, tries: count() })
    .from(signInAttempt)
    .where(
      and(
        inArray(signInAttempt.key, keys),
        gt(signInAttempt.at, sql`now() - interval '15 minutes'`),
      ),
    )
    .groupBy(signInAttempt.key);
  const tries = new Map(rows.map((row) => [row.key, row.tries]));
  if (
    (tries.get(keys[0] ?? "") ?? 0) >= TRIES_PER_ACCOUNT ||
    (tries.get(keys[1] ?? "") ?? 0) >= TRIES_PER_ADDRESS
  ) {
    throw new Refusal(
      429,
      "sign-in/too-many",
      "There were too many attempts. Wait a quarter of an hour and try again.",
    );
  }
  const [found] = await db
    .select()
    .from(account)
    .where(and(eq(account.email, email), accountInForce));
  decoy ??= hashPassword(makeToken());
  const matches = await passwordMatches(password, found?.passwordHash ?? (await decoy));
  if (found === undefined || !matches) {
    await db.insert(signInAttempt).values(keys.map((key) => ({ key })));
    await db.delete(signInAttempt).where(lt(signInAttempt.at, sql`now() - interval '1 day'`));
    throw new Refusal(
      401,
      "sign-in/wrong",
      "Address and password do not belong together. Check both and try again.",
      "password",
    );
  }
  await db.delete(signInAttempt).where(eq(signInAttempt.key, keys[0] ?? ""));
  return { id: found.id, name: found.name, email: found.email };
}

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

import { type Refused, refused } from "../refused";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { countTry, forgiveTry, type TryLimit } from "../http/limitTries";
import { record } from "../events/record";
import { hashPassword, isOutdated, passwordMatches } from "./password";
import { makeToken } from "../callers/tokens";
import { t } from "../texts/t";
import {
  findAccountByEmail,
  clearFailures,
  renewHash,
  findOwnerByEmail,
  removeOverSessions,
  storeSession,
  removeOtherSessions,
} from "./queries";

/** Attempts that are let pass in a quarter of an hour: for one account, from one network, and in all. */
const TRIES_PER_ACCOUNT = 8;
const TRIES_PER_NETWORK = 40;
const TRIES_IN_ALL = 2_000;
const MINUTES = 15;

let decoy: Promise<string> | undefined;

/**
 * Checks an address and a password. Wrong and unknown are answered alike and take as long.
 *
 * @param from the network of the caller, for the limit on attempts
 * Refused with 401, or 429 when there were too many failed attempts.
 */
export async function checkPassword(
  db: Database,
  email: string,
  password: string,
  from: string,
): Promise<{ id: string; name: string; email: string } | Refused> {
  const counted = await countTry(db, signInLimits(email, from));
  if (counted === undefined) return tooManySignIns();
  const found = await findAccountByEmail(db, email);
  decoy ??= hashPassword(makeToken());
  const matches = await passwordMatches(password, found?.passwordHash || (await decoy));
  if (found === undefined || !matches) {
    await recordFailure(db, email, from);
    return refused(401, "sign-in/wrong", t("accounts.addressAndPasswordDoNot"), "password");
  }
  await forgiveTry(db, counted);
  await clearFailures(db, email);
  if (isOutdated(found.passwordHash)) await renewHash(db, password, found.id, found.passwordHash);
  return { id: found.id, name: found.name, email: found.email };
}

/** Puts a failed attempt into the journal, where there is an account for the address. */
export async function recordFailure(db: Queries, email: string, from: string): Promise<void> {
  const found = await findOwnerByEmail(db, email);
  if (found !== undefined)
    await record(db, {
      actorId: found.id,
      actor: found.name,
      action: "failed sign-in",
      sentence: () => t("accounts.somebodyTriedToSignIn", { name: found.name, from }),
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

export const tooManySignIns = (): Refused =>
  refused(429, "sign-in/too-many", t("accounts.thereWereTooManyAttempts"));

/** Starts a session and returns its secret, which goes into the cookie and nowhere else. */
export async function startSession(
  db: Queries,
  accountId: string,
  browser: string,
): Promise<string> {
  const token = makeToken();
  await removeOverSessions(db);
  await storeSession(db, token, accountId, browser);
  return token;
}

/** Ends all sessions of an account but the one with a secret. Returns how many. */
export async function endOtherSessions(
  db: Queries,
  accountId: string,
  token: string,
): Promise<number> {
  const ended = await removeOtherSessions(db, accountId, token);
  // Pages that listen look whether they still may.
  await notify(db, "house");
  return ended.length;
}

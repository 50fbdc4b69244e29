import type { ProgramUse } from "@amigo/core/access/programUses";
import { and, asc, count, desc, eq, gt, isNotNull, isNull, lt, sql } from "drizzle-orm";
import type { TwoStep } from "@amigo/contract/twoStep";
import { hashToken, makeToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { hashRecoveryCode, makeRecoveryCodes } from "./codes";
import { tokenInForce, hasSecondStep, accountInForce } from "../callers/inForce";
import {
  authenticator,
  passkey,
  recoveryCode,
  signInStep,
  apiToken,
  account,
} from "../db/schema/accounts";
import { house } from "../db/schema/house";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { TwoStepFor } from "@amigo/core/access/twoStep";

/** How long the second step of a sign-in may take, in minutes. */
export const STEP_MINUTES = 10;

export const MAIL_PASSWORD_DAYS = 365;

/** By what an account can do its second step. All empty where it has none. */
export async function secondStepsOf(
  db: Queries,
  accountId: string,
): Promise<{ code: boolean; passkeys: (typeof passkey.$inferSelect)[]; recoveryCodes: number }> {
  const [app] = await db
    .select({ id: authenticator.accountId })
    .from(authenticator)
    .where(and(eq(authenticator.accountId, accountId), isNotNull(authenticator.confirmedAt)));
  const passkeys = await db
    .select()
    .from(passkey)
    .where(eq(passkey.accountId, accountId))
    .orderBy(asc(passkey.createdAt));
  return {
    code: app !== undefined,
    passkeys,
    recoveryCodes: await countRecoveryCodes(db, accountId),
  };
}

/** How many recovery codes of an account are not used yet. */
export async function countRecoveryCodes(db: Queries, accountId: string): Promise<number> {
  const [left] = await db
    .select({ count: count() })
    .from(recoveryCode)
    .where(and(eq(recoveryCode.accountId, accountId), isNull(recoveryCode.usedAt)));
  return left?.count ?? 0;
}

/** Gives an account new recovery codes in place of all that it had, and returns them: nobody can look them up later. */
export async function renewRecoveryCodes(db: Queries, accountId: string): Promise<string[]> {
  const codes = makeRecoveryCodes();
  await db.delete(recoveryCode).where(eq(recoveryCode.accountId, accountId));
  await db
    .insert(recoveryCode)
    .values(codes.map((code) => ({ accountId, codeHash: hashRecoveryCode(accountId, code) })));
  return codes;
}

/** Uses a recovery code up; whether it was one. Of two who give it at once, one gets in. */
export async function takeRecoveryCode(
  db: Queries,
  accountId: string,
  code: string,
): Promise<boolean> {
  const taken = await db
    .update(recoveryCode)
    .set({ usedAt: sql`now()` })
    .where(
      and(
        eq(recoveryCode.accountId, accountId),
        eq(recoveryCode.codeHash, hashRecoveryCode(accountId, code)),
        isNull(recoveryCode.usedAt),
      ),
    )
    .returning({ id: recoveryCode.codeHash });
  return taken.length > 0;
}

/** Removes everything by which an account does its second step. */
export async function removeSecondSteps(db: Queries, accountId: string): Promise<void> {
  await db.delete(authenticator).where(eq(authenticator.accountId, accountId));
  await db.delete(passkey).where(eq(passkey.accountId, accountId));
  await db.delete(recoveryCode).where(eq(recoveryCode.accountId, accountId));
  await db.delete(signInStep).where(eq(signInStep.accountId, accountId));
}

/** Keeps what is under way in one browser and returns its secret. */
export async function beginStep(
  db: Queries,
  step: Pick<typeof signInStep.$inferInsert, "accountId" | "purpose" | "challenge">,
): Promise<string> {
  const token = makeToken();
  await db.delete(signInStep).where(lt(signInStep.expiresAt, sql`now()`));
  await db.insert(signInStep).values({
    ...step,
    tokenHash: hashToken(token),
    expiresAt: sql`now() + make_interval(mins => ${STEP_MINUTES})`,
  });
  return token;
}

/** What is under way in the browser that holds a secret, where it has not run out. */
export async function stepBehind(
  db: Queries,
  token: string | undefined,
  purpose: (typeof signInStep.$inferSelect)["purpose"],
): Promise<typeof signInStep.$inferSelect | undefined> {
  if (token === undefined) return undefined;
  const [found] = await db.select().from(signInStep).where(stepIs(token, purpose));
  return found;
}

/** Ends what is under way and returns whether it was there: of two requests at once, one is told yes. */
export async function takeStep(
  db: Queries,
  token: string,
  purpose: (typeof signInStep.$inferSelect)["purpose"],
): Promise<boolean> {
  const taken = await db
    .delete(signInStep)
    .where(stepIs(token, purpose))
    .returning({ id: signInStep.tokenHash });
  return taken.length > 0;
}

/** Puts the challenge that a passkey is to sign into a step; a new one takes the place of the old. */
export async function challengeStep(db: Queries, token: string, challenge: string): Promise<void> {
  await db
    .update(signInStep)
    .set({ challenge })
    .where(eq(signInStep.tokenHash, hashToken(token)));
}

/** Uses a challenge up and returns whether it was still good: of two answers at once, one is told yes. */
export async function takeChallenge(
  db: Queries,
  token: string,
  challenge: string,
): Promise<boolean> {
  const taken = await db
    .update(signInStep)
    .set({ challenge: "" })
    .where(and(eq(signInStep.tokenHash, hashToken(token)), eq(signInStep.challenge, challenge)))
    .returning({ id: signInStep.tokenHash });
  return taken.length > 0;
}

function stepIs(token: string, purpose: (typeof signInStep.$inferSelect)["purpose"]) {
  return and(
    eq(signInStep.tokenHash, hashToken(token)),
    eq(signInStep.purpose, purpose),
    gt(signInStep.expiresAt, sql`now()`),
  );
}

/** The passwords of an account's mail programs that are in force. */
export async function mailProgramsOf(
  db: Queries,
  accountId: string,
): Promise<TwoStep["mailPrograms"]> {
  const rows = await db
    .select()
    .from(apiToken)
    .where(and(eq(apiToken.accountId, accountId), eq(apiToken.forMailProgram, true), tokenInForce))
    .orderBy(desc(apiToken.createdAt));
  return rows.map(({ id, name, programUses, createdAt, lastUsedAt, lastDay }) => ({
    id,
    name,
    uses: programUses,
    since: createdAt.toISOString(),
    lastUsed: lastUsedAt?.toISOString() ?? null,
    lastDay: lastDay ?? "",
  }));
}

/** Returns an account's role, whether it has a second step, and for whom the house asks for one. */
export async function findTwoStepNeed(db: Queries, accountId: string) {
  const [found] = await db
    .select({ role: account.role, twoStep: house.twoStep, hasSecondStep })
    .from(account)
    .innerJoin(house, sql`true`)
    .where(eq(account.id, accountId));
  return found;
}

/** Marks a mail program's password as used, and returns whose it is; undefined where it is not good. */
export async function useMailPassword(db: Queries, password: string, email: string) {
  const [found] = await db
    .update(apiToken)
    .set({ lastUsedAt: sql`now()` })
    .from(account)
    .where(
      and(
        eq(apiToken.tokenHash, hashToken(password)),
        eq(apiToken.forMailProgram, true),
        sql`'mail' = any(${apiToken.programUses})`,
        tokenInForce,
        eq(account.id, apiToken.accountId),
        eq(account.email, email),
        accountInForce,
      ),
    )
    .returning({ id: account.id });
  return found;
}

/** Stores the password of a program by its hash. */
export async function storeMailPassword(
  db: Queries,
  { name, uses }: { name: string; uses: ProgramUse[] },
  password: string,
  accountId: string,
  timeZone: string | undefined,
): Promise<void> {
  await db.insert(apiToken).values({
    name,
    programUses: uses,
    tokenHash: hashToken(password),
    accountId,
    scopes: ["send"],
    lastDay: dayIn(timeZone ?? "UTC", new Date(Date.now() + MAIL_PASSWORD_DAYS * 86_400_000)),
    forMailProgram: true,
  });
}

/** Revokes one mail program's password, and returns its name. */
export async function revokeMailPassword(db: Queries, id: string, accountId: string) {
  const [found] = await db
    .update(apiToken)
    .set({ revokedAt: sql`now()` })
    .where(
      and(
        eq(apiToken.id, id),
        eq(apiToken.accountId, accountId),
        eq(apiToken.forMailProgram, true),
        isNull(apiToken.revokedAt),
      ),
    )
    .returning({ name: apiToken.name });
  return found;
}

/** Stores for whom a second step is needed. */
export async function storeTwoStepFor(db: Queries, twoStep: TwoStepFor): Promise<void> {
  await db.update(house).set({ twoStep });
}

export async function whoNeedsTwoSteps(
  db: Queries,
): Promise<(typeof house.$inferSelect)["twoStep"]> {
  const [found] = await db.select({ twoStep: house.twoStep }).from(house);
  return found?.twoStep ?? "nobody";
}

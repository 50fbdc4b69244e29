import { and, eq, gt, sql, type SQL } from "drizzle-orm";
import { may, type Action, type HouseRole } from "@amigo/core/access/may";
import type { ProgramUse } from "@amigo/core/access/programUses";
import { tokenMay, type TokenScope } from "@amigo/core/access/tokenScopes";
import { needsTwoSteps } from "@amigo/core/access/twoStep";
import type { Queries } from "../db/connect";
import { hashToken } from "./tokens";
import { accountInForce, tokenInForce, hasSecondStep } from "./inForce";
import { house } from "../db/schema/house";
import { account, session, apiToken } from "../db/schema/accounts";
import { memberSession } from "../db/schema/members";

/** Who asks: a signed-in account, by its session or by one of its API tokens. */
export interface Caller {
  id: string;
  name: string;
  email: string;
  role: HouseRole;
  siteId: number | null;
  /** In which language they read the interface; empty or missing for the house's. */
  language?: string;
  by: "session" | "token";
  /** That the school asks this account for two-step sign-in, and it has none yet: it may do nothing but set it up. */
  mustSetUpTwoStep?: boolean;
  /** What a token may be used for; all for a session. */
  scopes?: readonly TokenScope[];
}

/** Whether a caller may do something at all: by their role, and with a token by its scopes as well. */
export function callerMay(caller: Pick<Caller, "role" | "by" | "scopes">, action: Action): boolean {
  return (
    may(caller.role, action) && (caller.by === "session" || tokenMay(caller.scopes ?? [], action))
  );
}

/** The columns of an account that make it a caller. */
export const callerColumns = {
  id: account.id,
  name: account.name,
  email: account.email,
  role: account.role,
  siteId: account.siteId,
  language: account.language,
};

/** A session ends after this many days without use. */
const IDLE_DAYS = 3;

/**
 * The account of a session that has not ended.
 *
 * @param isIdle whether the asking is no sign of somebody being there
 */
export async function callerOfSession(
  db: Queries,
  token: string,
  isIdle = false,
): Promise<Caller | undefined> {
  const [found] = await db
    .select({
      ...callerColumns,
      twoStep: house.twoStep,
      hasSecondStep,
      idle: sql<boolean>`${session.lastSeenAt} < now() - interval '5 minutes'`,
    })
    .from(session)
    .innerJoin(account, eq(account.id, session.accountId))
    .innerJoin(house, eq(house.id, 1))
    .where(
      and(
        eq(session.tokenHash, hashToken(token)),
        gt(session.expiresAt, sql`now()`),
        gt(session.lastSeenAt, sql`now() - make_interval(days => ${IDLE_DAYS})`),
        accountInForce,
      ),
    );
  if (found === undefined) return undefined;
  const { idle, twoStep, hasSecondStep: hasOne, ...caller } = found;
  if (idle && !isIdle)
    await db
      .update(session)
      .set({ lastSeenAt: sql`now()` })
      .where(eq(session.tokenHash, hashToken(token)));
  return {
    ...caller,
    by: "session",
    mustSetUpTwoStep: !hasOne && needsTwoSteps(twoStep, caller.role),
  };
}

/** The address of a member session that has not ended. */
export async function memberOfSession(db: Queries, token: string): Promise<string | undefined> {
  const [found] = await db
    .select({ address: memberSession.address })
    .from(memberSession)
    .where(
      and(eq(memberSession.tokenHash, hashToken(token)), gt(memberSession.expiresAt, sql`now()`)),
    );
  return found?.address;
}

/** The account of an API token that is in force. */
export async function callerOfToken(db: Queries, token: string): Promise<Caller | undefined> {
  const found = await findBySecret(db, token, eq(apiToken.forMailProgram, false));
  return found === undefined ? undefined : { ...found, by: "token" };
}

/** The account of a program's password that is in force and was made for a use. */
export async function callerOfProgram(
  db: Queries,
  email: string,
  password: string,
  use: ProgramUse,
): Promise<Caller | undefined> {
  const found = await findBySecret(
    db,
    password,
    eq(apiToken.forMailProgram, true),
    sql`${use} = any(${apiToken.programUses})`,
    eq(account.email, email),
  );
  return found === undefined ? undefined : { ...found, by: "token", scopes: PROGRAM_SCOPES };
}

/** Marks a token or a program's password as used, and returns its account; undefined where it isn't in force. */
async function findBySecret(db: Queries, secret: string, ...conditions: SQL[]) {
  const [found] = await db
    .update(apiToken)
    .set({ lastUsedAt: sql`now()` })
    .from(account)
    .where(
      and(
        eq(apiToken.tokenHash, hashToken(secret)),
        tokenInForce,
        eq(account.id, apiToken.accountId),
        accountInForce,
        ...conditions,
      ),
    )
    .returning({ ...callerColumns, scopes: apiToken.scopes });
  return found;
}

/** What calendars, address books and shelves show, and what can be written with them. */
const PROGRAM_SCOPES: readonly TokenScope[] = ["read lists", "send", "read people"];

/** Returns the caller as the journal names them. */
export function actorOf({ id, name }: Pick<Caller, "id" | "name">): { id: string; name: string } {
  return { id, name };
}

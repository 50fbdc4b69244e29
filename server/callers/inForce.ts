import { or, isNull, gt, sql, and, type SQL } from "drizzle-orm";
import { account, authenticator, passkey, apiToken } from "../db/schema/accounts";

/** That an account has not ended. */
export const accountInForce = or(isNull(account.endedAt), gt(account.endedAt, sql`now()`));

/** That an API token or a mail program's password was not revoked and its last day, on the school's clocks, is not over. */
export const tokenInForce = and(
  isNull(apiToken.revokedAt),
  or(
    isNull(apiToken.lastDay),
    sql`${apiToken.lastDay} >= (now() at time zone (select time_zone from house))::date`,
  ),
);

/** That an account has a second step: an authenticator app that has been confirmed, or a passkey. For queries over accounts. */
export const hasSecondStep: SQL<boolean> = sql<boolean>`(exists (select 1 from ${authenticator} where ${authenticator.accountId} = ${account.id} and ${authenticator.confirmedAt} is not null) or exists (select 1 from ${passkey} where ${passkey.accountId} = ${account.id}))`;

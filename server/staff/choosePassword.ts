import { and, eq, inArray, sql, isNull } from "drizzle-orm";
import { type postPassword, type postChoosePassword } from "@amigo/contract/staff";
import { passFirstStep } from "../accounts/beginSession";
import { confirmPassword } from "../accounts/confirmPassword";
import { hashPassword } from "../accounts/password";
import { passwordFault } from "../accounts/passwordFault";
import { endOtherSessions } from "../accounts/signIn";
import { accountInForce } from "../callers/inForce";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { account, session, apiToken, signInStep } from "../db/schema/accounts";
import { house } from "../db/schema/house";
import { mailedLink } from "../db/schema/members";
import { notify } from "../events/events";
import { readSecret } from "../http/cookies";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../journal/record";
import { linkBehind, takeLink } from "../posting/mailLink";
import { t } from "../texts/t";
import { ranOut } from "./ranOut";

export async function changePassword(
  context: Context,
  { body, caller, http }: Request<typeof postPassword>,
): Promise<Answer<typeof postPassword>> {
  const { db, settings } = context;
  await confirmPassword(context, http, caller, body.current, "current");
  await storePassword(db, caller, body.password);
  await endOtherSessions(db, caller.id, readSecret(http, settings, "session") ?? "");
  await endSecrets(db, caller.id);
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "change password",
    sentence: t("staff.changedTheirPasswordTheirOther", { name: caller.name }),
  });
  return { done: true as const };
}

export async function choosePassword(
  context: Context,
  { body, http }: Request<typeof postChoosePassword>,
): Promise<Answer<typeof postChoosePassword>> {
  const { db } = context;
  const looked =
    (await linkBehind(db, body.token, "invitation")) ??
    (await linkBehind(db, body.token, "new password"));
  const [found] =
    looked === undefined
      ? []
      : await db
          .select({
            id: account.id,
            name: account.name,
            email: account.email,
            role: account.role,
            siteId: account.siteId,
          })
          .from(account)
          .where(and(eq(account.id, looked.about), accountInForce));
  if (found === undefined) throw ranOut();
  await refuseWeak(db, found, body.password);
  const taken =
    (await takeLink(db, body.token, "invitation")) ??
    (await takeLink(db, body.token, "new password"));
  if (taken === undefined) throw ranOut();
  await storePassword(db, found, body.password);
  await db.delete(session).where(eq(session.accountId, found.id));
  await notify(db, "house");
  await endSecrets(db, found.id);
  await record(db, {
    actorId: found.id,
    actor: found.name,
    action: "change password",
    sentence: t("staff.choseAPasswordByA", { name: found.name }),
  });
  return { done: await passFirstStep(context, http, found, t("shared.signedIn")) };
}

async function refuseWeak(
  db: Queries,
  who: { name: string; email: string },
  password: string,
): Promise<void> {
  const [own] = await db.select({ name: house.name }).from(house);
  const fault = passwordFault(password, [who.name, who.email, own?.name ?? ""]);
  if (fault !== undefined) throw new Refusal(422, "password/weak", fault, "password");
}

async function storePassword(
  db: Queries,
  who: { id: string; name: string; email: string },
  password: string,
): Promise<void> {
  await refuseWeak(db, who, password);
  await db
    .update(account)
    .set({ passwordHash: await hashPassword(password) })
    .where(eq(account.id, who.id));
}

/** Ends every mailed link, API token and half-done sign-in of an account: whoever knew the old password may have made them. */
async function endSecrets(db: Queries, accountId: string): Promise<void> {
  await db
    .delete(mailedLink)
    .where(
      and(
        inArray(mailedLink.purpose, ["invitation", "sign-in", "new password", "held mail"]),
        sql`(${mailedLink.about} = ${accountId} or ${mailedLink.about} like ${`% ${accountId}`})`,
      ),
    );
  await db
    .update(apiToken)
    .set({ revokedAt: sql`now()` })
    .where(and(eq(apiToken.accountId, accountId), isNull(apiToken.revokedAt)));
  await db.delete(signInStep).where(eq(signInStep.accountId, accountId));
}

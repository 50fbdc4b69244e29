import { refused, Refused } from "../refused";
import type { postPassword, postChoosePassword } from "@amigo/contract/staff";
import { passFirstStep } from "../accounts/beginSession";
import { confirmPassword } from "../accounts/confirmPassword";
import { passwordFault } from "../accounts/passwordFault";
import { endOtherSessions } from "../accounts/signIn";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { readSecret } from "../http/cookies";
import { refuse } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { ranOut } from "./ranOut";
import { removeSessions, findInForce } from "../accounts/queries";
import { loadHouse } from "../db/houseQueries";
import { removeLinksOf, revokeTokensOf, removeSignInSteps } from "./queries";
import { account } from "../db/schema/accounts";
import { hashPassword } from "../accounts/password";
import { eq } from "drizzle-orm";
import { linkBehind, takeLink } from "../posting/linkQueries";

/** Changes the asker's password; their other sessions end. */
export async function changePassword(
  context: Context,
  { body, caller, http }: Request<typeof postPassword>,
): Promise<Answer<typeof postPassword>> {
  const { db, settings } = context;
  await confirmPassword(context, http, caller, body.current, "current");
  refuse(await storePassword(db, caller, body.password));
  await endOtherSessions(db, caller.id, readSecret(http, settings, "session") ?? "");
  await endSecrets(db, caller.id);
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "change password",
    sentence: () => t("staff.changedTheirPasswordTheirOther", { name: caller.name }),
  });
  return { done: true as const };
}

/** Stores a password chosen by a mailed link, once, and signs in; other sessions end. */
export async function choosePassword(
  context: Context,
  { body, http }: Request<typeof postChoosePassword>,
): Promise<Answer<typeof postChoosePassword>> {
  const { db } = context;
  const looked =
    (await linkBehind(db, body.token, "invitation")) ??
    (await linkBehind(db, body.token, "new password"));
  const [found] = looked === undefined ? [] : await findInForce(db, looked.about);
  if (found === undefined) refuse(ranOut());
  refuse(await refuseWeak(db, found, body.password));
  const taken =
    (await takeLink(db, body.token, "invitation")) ??
    (await takeLink(db, body.token, "new password"));
  if (taken === undefined) refuse(ranOut());
  refuse(await storePassword(db, found, body.password));
  await removeSessions(db, found.id);
  await notify(db, "house");
  await endSecrets(db, found.id);
  await record(db, {
    actorId: found.id,
    actor: found.name,
    action: "change password",
    sentence: () => t("staff.choseAPasswordByA", { name: found.name }),
  });
  return { done: await passFirstStep(context, http, found, () => t("shared.signedIn")) };
}

export async function refuseWeak(
  db: Queries,
  who: { name: string; email: string },
  password: string,
): Promise<Refused | undefined> {
  const house = await loadHouse(db);
  const fault = passwordFault(password, [who.name, who.email, house?.name ?? ""]);
  if (fault !== undefined) return refused(422, "password/weak", fault, "password");
}

/** Ends every mailed link, API token and half-done sign-in of an account: whoever knew the old password may have made them. */
async function endSecrets(db: Queries, accountId: string): Promise<void> {
  await removeLinksOf(db, accountId);
  await revokeTokensOf(db, accountId);
  await removeSignInSteps(db, accountId);
}

export async function storePassword(
  db: Queries,
  who: { id: string; name: string; email: string },
  password: string,
): Promise<Refused | undefined> {
  const wrong = await refuseWeak(db, who, password);
  if (wrong instanceof Refused) return wrong;
  await db
    .update(account)
    .set({ passwordHash: await hashPassword(password) })
    .where(eq(account.id, who.id));
}

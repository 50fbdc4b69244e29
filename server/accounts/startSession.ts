import { eq, and } from "drizzle-orm";
import { type postSignIn, type postDemoSignIn, type postSignOut } from "@amigo/contract/accounts";
import { accountInForce } from "../callers/inForce";
import type { Context } from "../context";
import { account } from "../db/schema/accounts";
import { house } from "../db/schema/house";
import { notify } from "../events/events";
import { readSecret, forgetSecret } from "../http/cookies";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { networkAddress } from "../http/networkAddress";
import { t } from "../texts/t";
import { passFirstStep } from "./beginSession";
import { checkPassword, endSession } from "./signIn";

export async function signInByPassword(
  context: Context,
  { body, http }: Request<typeof postSignIn>,
): Promise<Answer<typeof postSignIn>> {
  const { db, settings } = context;
  const found = await checkPassword(db, body.email, body.password, networkAddress(http, settings));
  return { done: await passFirstStep(context, http, found, t("shared.signedIn")) };
}

export async function signInToDemo(
  context: Context,
  { body, http }: Request<typeof postDemoSignIn>,
): Promise<Answer<typeof postDemoSignIn>> {
  const { db } = context;
  const [found] = await db
    .select({ id: account.id, name: account.name, demo: house.demo })
    .from(account)
    .innerJoin(house, eq(house.id, 1))
    .where(and(eq(account.email, body.email), accountInForce));
  if (found?.demo !== true)
    throw new Refusal(403, "sign-in/no-demo", t("accounts.signingInByOneClick"));
  return { done: await passFirstStep(context, http, found, t("accounts.signedInByOneClick")) };
}

export async function signOut(
  { settings, db }: Context,
  { http }: Request<typeof postSignOut>,
): Promise<Answer<typeof postSignOut>> {
  const token = readSecret(http, settings, "session");
  if (token !== undefined) await endSession(db, token);
  forgetSecret(http, settings, "session");
  await notify(db, "house");
  return { done: true as const };
}

import type { postSignIn, postDemoSignIn, postSignOut } from "@amigo/contract/accounts";
import type { Context } from "../context";
import { notify } from "../events/events";
import { readSecret, forgetSecret } from "../http/cookies";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { networkAddress } from "../http/networkAddress";
import { t } from "../texts/t";
import { passFirstStep } from "./beginSession";
import { checkPassword } from "./signIn";
import { findDemoAccount, endSession } from "./queries";

/** Signs in with address and password. */
export async function signInByPassword(
  context: Context,
  { body, http }: Request<typeof postSignIn>,
): Promise<Answer<typeof postSignIn>> {
  const { db, settings } = context;
  const found = orRefuse(
    await checkPassword(db, body.email, body.password, networkAddress(http, settings)),
  );
  return { done: await passFirstStep(context, http, found, () => t("shared.signedIn")) };
}

/** Signs in as a demo account; refused in any other house. */
export async function signInToDemo(
  context: Context,
  { body, http }: Request<typeof postDemoSignIn>,
): Promise<Answer<typeof postDemoSignIn>> {
  const { db } = context;
  const found = await findDemoAccount(db, body.email);
  if (found?.demo !== true)
    throw new Refusal(403, "sign-in/no-demo", t("accounts.signingInByOneClick"));
  return {
    done: await passFirstStep(context, http, found, () => t("accounts.signedInByOneClick")),
  };
}

/** Ends this session. */
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

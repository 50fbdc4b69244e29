import { type postSignInCancel } from "@amigo/contract/twoStep";
import type { Context } from "../context";
import { readSecret, forgetSecret } from "../http/cookies";
import type { Request, Answer } from "../http/handler";
import { takeStep } from "./queries";

/** Gives up a sign-in that waits for its second step. */
export async function cancelSignIn(
  { settings, db }: Context,
  { http }: Request<typeof postSignInCancel>,
): Promise<Answer<typeof postSignInCancel>> {
  const token = readSecret(http, settings, "step");
  if (token !== undefined) await takeStep(db, token, "sign-in");
  forgetSecret(http, settings, "step");
  return { done: true as const };
}

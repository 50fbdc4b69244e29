import type { postSignInPasskeyOptions, postSignInPasskey } from "@amigo/contract/twoStep";
import type { Context } from "../context";
import { readSecret, keepSecret } from "../http/cookies";
import { refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { passkeysWork, optionsToUse, jsonOf, usedPasskey } from "./passkeys";
import {
  stepBehind,
  secondStepsOf,
  challengeStep,
  beginStep,
  STEP_MINUTES,
  takeChallenge,
} from "./queries";
import { ranOut } from "./ranOut";
import { findPasskey, countPasskeyUse } from "./methodQueries";
import { finishSignIn } from "./finishSignIn";

/** Begins to sign in by a passkey, or to finish a sign-in by one. */
export async function offerSignInPasskey(
  { settings, db }: Context,
  { http }: Request<typeof postSignInPasskeyOptions>,
): Promise<Answer<typeof postSignInPasskeyOptions>> {
  if (!passkeysWork(settings))
    throw new Refusal(409, "passkey/address", t("twoStep.passkeysDontWorkAtThe"));
  const token = readSecret(http, settings, "step");
  const step = await stepBehind(db, token, "sign-in");
  const among =
    step === undefined || step.accountId === null
      ? undefined
      : (await secondStepsOf(db, step.accountId)).passkeys;
  const options = await optionsToUse(settings, among);
  if (step !== undefined && token !== undefined) await challengeStep(db, token, options.challenge);
  else {
    const begun = await beginStep(db, {
      accountId: null,
      purpose: "sign-in",
      challenge: options.challenge,
    });
    keepSecret(http, settings, "step", begun, STEP_MINUTES * 60);
  }
  return { options: jsonOf(options) };
}

/** Signs in by a passkey, or finishes a sign-in by one. */
export async function signInByPasskey(
  { settings, db }: Context,
  { body, http }: Request<typeof postSignInPasskey>,
): Promise<Answer<typeof postSignInPasskey>> {
  const token = readSecret(http, settings, "step");
  const step = await stepBehind(db, token, "sign-in");
  if (step === undefined || token === undefined || step.challenge === "") refuse(ranOut());
  // A challenge is answered once, whatever the answer.
  if (!(await takeChallenge(db, token, step.challenge))) refuse(ranOut());
  const [found] = typeof body.answer.id !== "string" ? [] : await findPasskey(db, body.answer.id);
  const isTheirs =
    found !== undefined && (step.accountId === null || step.accountId === found.who.id);
  const counter = isTheirs
    ? await usedPasskey(settings, body.answer, step.challenge, found.own, step.accountId === null)
    : undefined;
  if (found === undefined || counter === undefined)
    throw new Refusal(401, "sign-in/passkey", t("twoStep.thisPasskeyDoesntBelongTo"));
  await db.transaction(async (tx) => {
    await countPasskeyUse(tx, counter, found.own);
    await finishSignIn(
      settings,
      tx,
      http,
      token,
      found.who,
      t("twoStep.thePasskey", { name: found.own.name }),
    );
  });
  return { done: true as const };
}

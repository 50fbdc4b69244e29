import type { postPasskeyOptions, postPasskey, postRemovePasskey } from "@amigo/contract/twoStep";
import { confirmPassword } from "../accounts/confirmPassword";
import type { Context } from "../context";
import { keepSecret, readSecret, forgetSecret } from "../http/cookies";
import { refuse, Refusal, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { passkeysWork, optionsToMake, jsonOf, madePasskey } from "./passkeys";
import { secondStepsOf, beginStep, STEP_MINUTES, stepBehind, takeStep } from "./queries";
import { loadHouse } from "../db/houseQueries";
import { storePasskey, removePasskeyOf } from "./methodQueries";
import { addSecondStep } from "./addSecondStep";
import { removeSecondStep } from "./removeSecondStep";

/** How many passkeys and passwords of mail programs one account may have, and how many first codes it may try in an hour. */
const MOST_PASSKEYS = 20;

/** Begins to add a passkey: what the browser is to be asked for. */
export async function offerPasskey(
  context: Context,
  { body, caller, http }: Request<typeof postPasskeyOptions>,
): Promise<Answer<typeof postPasskeyOptions>> {
  const { settings, db } = context;
  if (!passkeysWork(settings))
    throw new Refusal(409, "passkey/address", t("twoStep.passkeysNeedAnAddressWith"));
  await confirmPassword(context, http, caller, body.password, "password");
  const { passkeys } = await secondStepsOf(db, caller.id);
  if (passkeys.length >= MOST_PASSKEYS)
    throw new Refusal(
      409,
      "passkey/many",
      t("twoStep.anAccountCanHavePasskeys", { most: MOST_PASSKEYS }),
    );
  const house = await loadHouse(db);
  const options = await optionsToMake(settings, house?.name ?? "Amigo", caller, passkeys);
  const token = await beginStep(db, {
    accountId: caller.id,
    purpose: "new passkey",
    challenge: options.challenge,
  });
  keepSecret(http, settings, "step", token, STEP_MINUTES * 60);
  return { options: jsonOf(options) };
}

/** Adds a passkey by the browser's answer. */
export async function addPasskey(
  context: Context,
  { body, caller, http }: Request<typeof postPasskey>,
): Promise<Answer<typeof postPasskey>> {
  const { settings, db } = context;
  const token = readSecret(http, settings, "step");
  const step = await stepBehind(db, token, "new passkey");
  if (token === undefined || step === undefined || step.accountId !== caller.id)
    throw new Refusal(409, "passkey/ran-out", t("twoStep.addingThePasskeyTookToo"));
  forgetSecret(http, settings, "step");
  const made = await madePasskey(settings, body.answer, step.challenge);
  if (made === undefined || !(await takeStep(db, token, "new passkey")))
    throw new Refusal(422, "passkey/not-made", t("twoStep.theBrowsersPasskeyCouldNot"));
  return addSecondStep(context, caller, readSecret(http, settings, "session"), async (tx) => {
    const stored = await storePasskey(tx, made, caller.id, body.name);
    if (stored.length === 0)
      throw new Refusal(409, "passkey/there", t("twoStep.thisPasskeyWasAddedAlready"));
    return (whose) => t("twoStep.thePasskeyWasAddedTo", { name: body.name, whose });
  });
}

/** Removes a passkey. */
export async function removePasskey(
  context: Context,
  { params, body, caller, http }: Request<typeof postRemovePasskey>,
): Promise<Answer<typeof postRemovePasskey>> {
  await confirmPassword(context, http, caller, body.password, "password");
  refuse(
    await removeSecondStep(context, caller, async (tx) => {
      const gone = await removePasskeyOf(tx, params.id, caller.id);
      if (gone === undefined) throw notFound("passkey");
      return (whose) => t("twoStep.thePasskeyWasRemovedFrom", { name: gone.name, whose });
    }),
  );
  return { done: true as const };
}

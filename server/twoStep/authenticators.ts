import QRCode from "qrcode";
import type {
  postAuthenticator,
  postConfirmAuthenticator,
  postRemoveAuthenticator,
} from "@amigo/contract/twoStep";
import { confirmPassword } from "../accounts/confirmPassword";
import type { Context } from "../context";
import { readSecret } from "../http/cookies";
import { refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { countTry } from "../http/limitTries";
import { t } from "../texts/t";
import { makeSecret, addressOf, stepOfCode } from "./codes";
import { seal, unseal } from "./seal";
import { loadHouse } from "../db/houseQueries";
import {
  storeAuthenticator,
  lockUnconfirmed,
  markConfirmed,
  removeAuthenticatorOf,
} from "./methodQueries";
import { addSecondStep } from "./addSecondStep";
import { removeSecondStep } from "./removeSecondStep";

const FIRST_CODES = 20;

/** Begins to set up an authenticator app: its secret, which counts once a code of it is given. */
export async function beginAuthenticator(
  context: Context,
  { body, caller, http }: Request<typeof postAuthenticator>,
): Promise<Answer<typeof postAuthenticator>> {
  const { houseKey, db } = context;
  await confirmPassword(context, http, caller, body.password, "password");
  const secret = makeSecret();
  const sealed = seal(houseKey, caller.id, secret);
  // One that is in use stays so until it is removed: whoever breaks off must not be locked out.
  const stored = await storeAuthenticator(db, caller.id, sealed);
  if (stored.length === 0)
    throw new Refusal(409, "two-step/app-there", t("twoStep.anAuthenticatorAppIsSet"));
  const house = await loadHouse(db);
  const uri = addressOf(secret, house?.name ?? "Amigo", caller.email);
  return { secret, uri, picture: await QRCode.toString(uri, { type: "svg", margin: 2 }) };
}

/** Gives a first code of the authenticator app; from then on codes are asked for at sign-in. */
export async function confirmAuthenticator(
  context: Context,
  { body, caller, http }: Request<typeof postConfirmAuthenticator>,
): Promise<Answer<typeof postConfirmAuthenticator>> {
  const { db, settings, houseKey } = context;
  if (
    (await countTry(db, [
      { key: `first codes of ${caller.id}`, most: FIRST_CODES, minutes: 60 },
    ])) === undefined
  )
    throw new Refusal(429, "two-step/too-many", t("twoStep.tooManyCodesWereTried"));
  return addSecondStep(context, caller, readSecret(http, settings, "session"), async (tx) => {
    const row = await lockUnconfirmed(tx, caller.id);
    if (row === undefined)
      throw new Refusal(409, "two-step/not-begun", t("twoStep.noAuthenticatorAppIsBeing"));
    const secret = unseal(houseKey, caller.id, row.sealed) ?? "";
    const step = secret === "" ? undefined : stepOfCode(secret, body.code, 0, Date.now());
    if (step === undefined)
      throw new Refusal(422, "two-step/code", t("twoStep.thisIsNotTheCode"), "code");
    await markConfirmed(tx, step, caller.id);
    return (whose) => t("twoStep.anAuthenticatorAppWasAdded", { whose });
  });
}

/** Asks for no codes of the authenticator app any more. */
export async function removeAuthenticator(
  context: Context,
  { body, caller, http }: Request<typeof postRemoveAuthenticator>,
): Promise<Answer<typeof postRemoveAuthenticator>> {
  await confirmPassword(context, http, caller, body.password, "password");
  refuse(
    await removeSecondStep(context, caller, async (tx) => {
      const gone = await removeAuthenticatorOf(tx, caller.id);
      return gone.length === 0
        ? undefined
        : (whose) => t("twoStep.theAuthenticatorAppWasRemoved", { whose });
    }),
  );
  return { done: true as const };
}

import type { Context as HonoContext } from "hono";
import type { postSignInCode } from "@amigo/contract/twoStep";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { readSecret } from "../http/cookies";
import { refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { countTry, forgiveTry } from "../http/limitTries";
import { networkAddress } from "../http/networkAddress";
import { record } from "../events/record";
import { t } from "../texts/t";
import { stepOfCode } from "./codes";
import { type Owner, finishSignIn } from "./finishSignIn";
import { stepBehind, takeRecoveryCode, countRecoveryCodes } from "./queries";
import { ranOut } from "./ranOut";
import { unseal } from "./seal";
import { tellOwner } from "./tellOwner";
import { findInForce } from "../accounts/queries";
import { findConfirmedAuthenticator, useCode } from "./methodQueries";

/** How many codes may be tried: for one account in a quarter of an hour and in a day, and from one network. */
const TRIES = 8;

const TRIES_A_DAY = 40;

const TRIES_PER_NETWORK = 40;

/** Whose first step this browser has passed. */
async function waiting(
  context: Context,
  http: HonoContext,
): Promise<{ token: string; who: Owner }> {
  const { settings, db } = context;
  const token = readSecret(http, settings, "step");
  const step = await stepBehind(db, token, "sign-in");
  const [who] =
    step === undefined || step.accountId === null ? [] : await findInForce(db, step.accountId);
  if (who === undefined || token === undefined) refuse(ranOut());
  return { token, who };
}

/** Whether a code is the app's of this time; one that was used already is not. */
async function isCodeOfApp(
  context: Context,
  tx: Queries,
  accountId: string,
  code: string,
): Promise<boolean> {
  const app = await findConfirmedAuthenticator(tx, accountId);
  const secret = app === undefined ? undefined : unseal(context.houseKey, accountId, app.sealed);
  if (app === undefined || secret === undefined) return false;
  const step = stepOfCode(secret, code, app.lastStep, Date.now());
  if (step === undefined) return false;
  const used = await useCode(tx, step, accountId);
  return used.length > 0;
}

/** Finishes a sign-in by a code of the authenticator app, or a recovery code. */
export async function signInByCode(
  context: Context,
  { body, http }: Request<typeof postSignInCode>,
): Promise<Answer<typeof postSignInCode>> {
  const { settings, db } = context;
  const { token, who } = await waiting(context, http);
  const limits = [
    { key: `second step of ${who.id}`, most: TRIES, minutes: 15 },
    { key: `second steps of a day of ${who.id}`, most: TRIES_A_DAY, minutes: 1440 },
    {
      key: `second steps from ${networkAddress(http, settings)}`,
      most: TRIES_PER_NETWORK,
      minutes: 15,
    },
  ];
  const counted = await countTry(db, limits);
  if (counted === undefined)
    throw new Refusal(429, "sign-in/too-many", t("twoStep.tooManyCodesWereTried2"));
  // Together: a code is used up, and its use is told, only where it signs in.
  const isIn = await db.transaction(async (tx) => {
    if (await isCodeOfApp(context, tx, who.id, body.code))
      await finishSignIn(settings, tx, http, token, who, t("twoStep.aCodeOfTheirApp"));
    else if (await takeRecoveryCode(tx, who.id, body.code)) {
      await finishSignIn(settings, tx, http, token, who, t("twoStep.aRecoveryCode"));
      const left = await countRecoveryCodes(tx, who.id);
      await tellOwner(tx, settings, who, () => t("twoStep.aRecoveryCodeWasUsed", { left }));
    } else return false;
    return true;
  });
  if (!isIn) {
    await record(db, {
      actorId: who.id,
      actor: who.name,
      action: "failed sign-in",
      sentence: () =>
        t("twoStep.somebodyWhoKnewThePassword", {
          name: who.name,
          from: networkAddress(http, settings),
        }),
    });
    throw new Refusal(401, "sign-in/code", t("twoStep.thisCodeIsNotRight"), "code");
  }
  await forgiveTry(db, counted);
  return { done: true as const };
}

import { and, eq, lt, sql } from "drizzle-orm";
import type { Context as HonoContext, Hono } from "hono";
import {
  postSignInCancel,
  postSignInCode,
  postSignInPasskey,
  postSignInPasskeyOptions,
} from "@amigo/contract/twoStep";
import { beginSession } from "../accounts/beginSession";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { forgetSecret, keepSecret, readSecret } from "../http/cookies";
import { Refusal } from "../http/fault";
import { countTry, forgiveTry } from "../http/limitTries";
import { networkAddress } from "../http/networkAddress";
import { route } from "../http/route";
import { record } from "../journal/record";
import { stepOfCode } from "./codes";
import { jsonOf, optionsToUse, passkeysWork, usedPasskey } from "./passkeys";
import {
  beginStep,
  challengeStep,
  countRecoveryCodes,
  secondStepsOf,
  stepBehind,
  STEP_MINUTES,
  takeChallenge,
  takeRecoveryCode,
  takeStep,
} from "./queries";
import { unseal } from "./seal";
import { tellOwner } from "./tellOwner";
import { t } from "../texts/t";
import { accountInForce } from "../callers/inForce";
import { account, authenticator, passkey } from "../db/schema/accounts";

/** How many codes may be tried: for one account in a quarter of an hour and in a day, and from one network. */
const TRIES = 8;
const TRIES_A_DAY = 40;
const TRIES_PER_NETWORK = 40;

type Owner = Pick<typeof account.$inferSelect, "id" | "name" | "email">;

/** How a sign-in that has passed its first step is finished, and how a passkey signs in alone. */
export function signInStepRoutes(app: Hono, context: Context): void {
  const { db, settings } = context;

  route(app, context, postSignInCode, async ({ body, http }) => {
    const { token, who } = await waiting(http);
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
      if (await isCodeOfApp(tx, who.id, body.code))
        await finish(tx, http, token, who, t("twoStep.aCodeOfTheirApp"));
      else if (await takeRecoveryCode(tx, who.id, body.code)) {
        await finish(tx, http, token, who, t("twoStep.aRecoveryCode"));
        const left = await countRecoveryCodes(tx, who.id);
        await tellOwner(tx, settings, who, t("twoStep.aRecoveryCodeWasUsed", { left }));
      } else return false;
      return true;
    });
    if (!isIn) {
      await record(db, {
        actorId: who.id,
        actor: who.name,
        action: "failed sign-in",
        sentence: t("twoStep.somebodyWhoKnewThePassword", {
          name: who.name,
          from: networkAddress(http, settings),
        }),
      });
      throw new Refusal(401, "sign-in/code", t("twoStep.thisCodeIsNotRight"), "code");
    }
    await forgiveTry(db, counted);
    return { done: true as const };
  });

  route(app, context, postSignInPasskeyOptions, async ({ http }) => {
    if (!passkeysWork(settings))
      throw new Refusal(409, "passkey/address", t("twoStep.passkeysDontWorkAtThe"));
    const token = readSecret(http, settings, "step");
    const step = await stepBehind(db, token, "sign-in");
    const among =
      step === undefined || step.accountId === null
        ? undefined
        : (await secondStepsOf(db, step.accountId)).passkeys;
    const options = await optionsToUse(settings, among);
    if (step !== undefined && token !== undefined)
      await challengeStep(db, token, options.challenge);
    else {
      const begun = await beginStep(db, {
        accountId: null,
        purpose: "sign-in",
        challenge: options.challenge,
      });
      keepSecret(http, settings, "step", begun, STEP_MINUTES * 60);
    }
    return { options: jsonOf(options) };
  });

  route(app, context, postSignInPasskey, async ({ body, http }) => {
    const token = readSecret(http, settings, "step");
    const step = await stepBehind(db, token, "sign-in");
    if (step === undefined || token === undefined || step.challenge === "") throw ranOut();
    // A challenge is answered once, whatever the answer.
    if (!(await takeChallenge(db, token, step.challenge))) throw ranOut();
    const [found] =
      typeof body.answer.id !== "string"
        ? []
        : await db
            .select({
              own: passkey,
              who: { id: account.id, name: account.name, email: account.email },
            })
            .from(passkey)
            .innerJoin(account, eq(account.id, passkey.accountId))
            .where(and(eq(passkey.credentialId, body.answer.id), accountInForce));
    const isTheirs =
      found !== undefined && (step.accountId === null || step.accountId === found.who.id);
    const counter = isTheirs
      ? await usedPasskey(settings, body.answer, step.challenge, found.own, step.accountId === null)
      : undefined;
    if (found === undefined || counter === undefined)
      throw new Refusal(401, "sign-in/passkey", t("twoStep.thisPasskeyDoesntBelongTo"));
    await db.transaction(async (tx) => {
      await tx
        .update(passkey)
        .set({ counter, lastUsedAt: sql`now()` })
        .where(eq(passkey.id, found.own.id));
      await finish(tx, http, token, found.who, t("twoStep.thePasskey", { name: found.own.name }));
    });
    return { done: true as const };
  });

  route(app, context, postSignInCancel, async ({ http }) => {
    const token = readSecret(http, settings, "step");
    if (token !== undefined) await takeStep(db, token, "sign-in");
    forgetSecret(http, settings, "step");
    return { done: true as const };
  });

  /** Whose first step this browser has passed. */
  async function waiting(http: HonoContext): Promise<{ token: string; who: Owner }> {
    const token = readSecret(http, settings, "step");
    const step = await stepBehind(db, token, "sign-in");
    const [who] =
      step === undefined || step.accountId === null
        ? []
        : await db
            .select({ id: account.id, name: account.name, email: account.email })
            .from(account)
            .where(and(eq(account.id, step.accountId), accountInForce));
    if (who === undefined || token === undefined) throw ranOut();
    return { token, who };
  }

  /** Whether a code is the app's of this time; one that was used already is not. */
  async function isCodeOfApp(tx: Queries, accountId: string, code: string): Promise<boolean> {
    const [app] = await tx
      .select()
      .from(authenticator)
      .where(
        and(eq(authenticator.accountId, accountId), sql`${authenticator.confirmedAt} is not null`),
      );
    const secret = app === undefined ? undefined : unseal(context.dkim.pem, accountId, app.sealed);
    if (app === undefined || secret === undefined) return false;
    const step = stepOfCode(secret, code, app.lastStep, Date.now());
    if (step === undefined) return false;
    const used = await tx
      .update(authenticator)
      .set({ lastStep: step })
      .where(and(eq(authenticator.accountId, accountId), lt(authenticator.lastStep, step)))
      .returning({ id: authenticator.accountId });
    return used.length > 0;
  }

  async function finish(
    tx: Queries,
    http: HonoContext,
    token: string,
    who: Owner,
    by: string,
  ): Promise<void> {
    if (!(await takeStep(tx, token, "sign-in"))) throw ranOut();
    await beginSession({ db: tx, settings }, http, who.id);
    await record(tx, {
      actorId: who.id,
      actor: who.name,
      action: "sign in",
      sentence: t("twoStep.signedInWith", { name: who.name, by }),
    });
  }
}

const ranOut = (): Refusal => new Refusal(401, "sign-in/ran-out", t("twoStep.thisSignInTookToo"));

import { and, eq, isNull, sql } from "drizzle-orm";
import type { Hono } from "hono";
import QRCode from "qrcode";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { needsTwoSteps } from "@amigo/core/access/twoStep";
import {
  deleteMailProgram,
  getTwoStep,
  postAuthenticator,
  postConfirmAuthenticator,
  postMailProgram,
  postPasskey,
  postPasskeyOptions,
  postRecoveryCodes,
  postRemoveAuthenticator,
  postRemovePasskey,
  putTwoStepFor,
} from "@amigo/contract/twoStep";
import { confirmPassword } from "../accounts/confirmPassword";
import { endOtherSessions } from "../accounts/signIn";
import type { Caller } from "../callers/caller";
import { hashToken, makeToken } from "../callers/tokens";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { forgetSecret, keepSecret, readSecret } from "../http/cookies";
import { notFound, Refusal } from "../http/fault";
import { countTry } from "../http/limitTries";
import { route } from "../http/route";
import { record } from "../journal/record";
import { addressOf, makeSecret, stepOfCode } from "./codes";
import { MAIL_PASSWORD, MAIL_PASSWORD_DAYS } from "./mailPassword";
import { jsonOf, madePasskey, optionsToMake, passkeysWork } from "./passkeys";
import {
  beginStep,
  countRecoveryCodes,
  mailProgramsOf,
  removeSecondSteps,
  renewRecoveryCodes,
  secondStepsOf,
  stepBehind,
  STEP_MINUTES,
  takeStep,
} from "./queries";
import { seal, unseal } from "./seal";
import { tellOwner } from "./tellOwner";
import { t } from "../texts/t";
import { house } from "../db/schema/house";
import { authenticator, passkey, apiToken } from "../db/schema/accounts";

/** How many passkeys and passwords of mail programs one account may have, and how many first codes it may try in an hour. */
const MOST_PASSKEYS = 20;
const MOST_MAIL_PROGRAMS = 20;
const FIRST_CODES = 20;

/** How an account protects its own sign-in, and whose sign-in the school's settings protect. */
export function twoStepRoutes(app: Hono, context: Context): void {
  const { db, settings, dkim } = context;

  route(app, context, getTwoStep, async ({ caller }) => {
    const [row] = await db
      .select()
      .from(authenticator)
      .where(eq(authenticator.accountId, caller.id));
    const { passkeys, recoveryCodes } = await secondStepsOf(db, caller.id);
    return {
      authenticator: row?.confirmedAt?.toISOString() ?? null,
      passkeys: passkeys.map(({ id, name, createdAt, lastUsedAt }) => ({
        id,
        name,
        since: createdAt.toISOString(),
        lastUsed: lastUsedAt?.toISOString() ?? null,
      })),
      recoveryCodes,
      isRequired: needsTwoSteps(await wanted(db), caller.role),
      passkeysWork: passkeysWork(settings),
      mailPrograms: await mailProgramsOf(db, caller.id),
    };
  });

  route(app, context, postAuthenticator, async ({ body, caller, http }) => {
    await confirmPassword(context, http, caller, body.password, "password");
    const secret = makeSecret();
    const sealed = seal(dkim.pem, caller.id, secret);
    // One that is in use stays so until it is removed: whoever breaks off must not be locked out.
    const stored = await db
      .insert(authenticator)
      .values({ accountId: caller.id, sealed })
      .onConflictDoUpdate({
        target: authenticator.accountId,
        set: { sealed, lastStep: 0 },
        setWhere: isNull(authenticator.confirmedAt),
      })
      .returning({ id: authenticator.accountId });
    if (stored.length === 0)
      throw new Refusal(409, "two-step/app-there", t("twoStep.anAuthenticatorAppIsSet"));
    const [own] = await db.select({ name: house.name }).from(house);
    const uri = addressOf(secret, own?.name ?? "Amigo", caller.email);
    return { secret, uri, picture: await QRCode.toString(uri, { type: "svg", margin: 2 }) };
  });

  route(app, context, postConfirmAuthenticator, async ({ body, caller, http }) => {
    if (
      (await countTry(db, [
        { key: `first codes of ${caller.id}`, most: FIRST_CODES, minutes: 60 },
      ])) === undefined
    )
      throw new Refusal(429, "two-step/too-many", t("twoStep.tooManyCodesWereTried"));
    return changing(caller, readSecret(http, settings, "session"), async (tx) => {
      const [row] = await tx
        .select()
        .from(authenticator)
        .where(and(eq(authenticator.accountId, caller.id), isNull(authenticator.confirmedAt)))
        .for("update");
      if (row === undefined)
        throw new Refusal(409, "two-step/not-begun", t("twoStep.noAuthenticatorAppIsBeing"));
      const secret = unseal(dkim.pem, caller.id, row.sealed) ?? "";
      const step = secret === "" ? undefined : stepOfCode(secret, body.code, 0, Date.now());
      if (step === undefined)
        throw new Refusal(422, "two-step/code", t("twoStep.thisIsNotTheCode"), "code");
      await tx
        .update(authenticator)
        .set({ confirmedAt: sql`now()`, lastStep: step })
        .where(eq(authenticator.accountId, caller.id));
      return t("twoStep.anAuthenticatorAppWasAdded");
    });
  });

  route(app, context, postRemoveAuthenticator, async ({ body, caller, http }) => {
    await confirmPassword(context, http, caller, body.password, "password");
    await removing(caller, async (tx) => {
      const gone = await tx
        .delete(authenticator)
        .where(eq(authenticator.accountId, caller.id))
        .returning({ id: authenticator.accountId });
      return gone.length === 0 ? undefined : t("twoStep.theAuthenticatorAppWasRemoved");
    });
    return { done: true as const };
  });

  route(app, context, postRecoveryCodes, async ({ body, caller, http }) => {
    await confirmPassword(context, http, caller, body.password, "password");
    const { code, passkeys } = await secondStepsOf(db, caller.id);
    if (!code && passkeys.length === 0)
      throw new Refusal(409, "two-step/none", t("twoStep.recoveryCodesAreForWhen"));
    return db.transaction(async (tx) => {
      const recoveryCodes = await renewRecoveryCodes(tx, caller.id);
      await tellChange(tx, caller, t("twoStep.newRecoveryCodesWereMade"));
      return { recoveryCodes };
    });
  });

  route(app, context, postPasskeyOptions, async ({ body, caller, http }) => {
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
    const [own] = await db.select({ name: house.name }).from(house);
    const options = await optionsToMake(settings, own?.name ?? "Amigo", caller, passkeys);
    const token = await beginStep(db, {
      accountId: caller.id,
      purpose: "new passkey",
      challenge: options.challenge,
    });
    keepSecret(http, settings, "step", token, STEP_MINUTES * 60);
    return { options: jsonOf(options) };
  });

  route(app, context, postPasskey, async ({ body, caller, http }) => {
    const token = readSecret(http, settings, "step");
    const step = await stepBehind(db, token, "new passkey");
    if (token === undefined || step === undefined || step.accountId !== caller.id)
      throw new Refusal(409, "passkey/ran-out", t("twoStep.addingThePasskeyTookToo"));
    forgetSecret(http, settings, "step");
    const made = await madePasskey(settings, body.answer, step.challenge);
    if (made === undefined || !(await takeStep(db, token, "new passkey")))
      throw new Refusal(422, "passkey/not-made", t("twoStep.theBrowsersPasskeyCouldNot"));
    return changing(caller, readSecret(http, settings, "session"), async (tx) => {
      const stored = await tx
        .insert(passkey)
        .values({ ...made, accountId: caller.id, name: body.name })
        .onConflictDoNothing()
        .returning({ id: passkey.id });
      if (stored.length === 0)
        throw new Refusal(409, "passkey/there", t("twoStep.thisPasskeyWasAddedAlready"));
      return t("twoStep.thePasskeyWasAddedTo", { name: body.name });
    });
  });

  route(app, context, postRemovePasskey, async ({ params, body, caller, http }) => {
    await confirmPassword(context, http, caller, body.password, "password");
    await removing(caller, async (tx) => {
      const [gone] = await tx
        .delete(passkey)
        .where(and(eq(passkey.id, params.id), eq(passkey.accountId, caller.id)))
        .returning({ name: passkey.name });
      if (gone === undefined) throw notFound("passkey");
      return t("twoStep.thePasskeyWasRemovedFrom", { name: gone.name });
    });
    return { done: true as const };
  });

  route(app, context, postMailProgram, async ({ body, caller, http }) => {
    await confirmPassword(context, http, caller, body.password, "password");
    if ((await mailProgramsOf(db, caller.id)).length >= MOST_MAIL_PROGRAMS)
      throw new Refusal(
        409,
        "mail-program/many",
        t("twoStep.anAccountCanHaveOf", { most: MOST_MAIL_PROGRAMS }),
      );
    const password = `${MAIL_PASSWORD}${makeToken()}`;
    await db.transaction(async (tx) => {
      const [own] = await tx.select({ timeZone: house.timeZone }).from(house);
      await tx.insert(apiToken).values({
        name: body.name,
        tokenHash: hashToken(password),
        accountId: caller.id,
        scopes: ["send"],
        lastDay: dayIn(
          own?.timeZone ?? "UTC",
          new Date(Date.now() + MAIL_PASSWORD_DAYS * 86_400_000),
        ),
        forMailProgram: true,
      });
      await tellChange(tx, caller, t("twoStep.aPasswordForTheMail", { name: body.name }));
    });
    return { password };
  });

  route(app, context, deleteMailProgram, async ({ params, caller }) => {
    const [gone] = await db
      .update(apiToken)
      .set({ revokedAt: sql`now()` })
      .where(
        and(
          eq(apiToken.id, params.id),
          eq(apiToken.accountId, caller.id),
          eq(apiToken.forMailProgram, true),
          isNull(apiToken.revokedAt),
        ),
      )
      .returning({ name: apiToken.name });
    if (gone === undefined) throw notFound("password");
    await record(db, {
      actorId: caller.id,
      actor: caller.name,
      action: "change sign-in",
      sentence: t("twoStep.endedThePasswordOfThe", { name: caller.name, program: gone.name }),
    });
    return { done: true as const };
  });

  route(app, context, putTwoStepFor, async ({ body, caller }) => {
    const { code, passkeys } = await secondStepsOf(db, caller.id);
    if (body.twoStep !== "nobody" && !code && passkeys.length === 0)
      throw new Refusal(409, "two-step/yourself-first", t("twoStep.setUpTwoStepSign"));
    await db.transaction(async (tx) => {
      const before = await wanted(tx);
      await tx.update(house).set({ twoStep: body.twoStep });
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "change the house",
        sentence: t("twoStep.setWhoNeedsTwoStep", { name: caller.name, twoStep: body.twoStep }),
        before: { twoStep: before },
        after: body,
      });
      await notify(tx, "house");
    });
    return { done: true as const };
  });

  /** Adds a way to do the second step, with recovery codes if it is the first; sessions elsewhere end, for they began without it. */
  function changing(
    caller: Caller,
    session: string | undefined,
    add: (tx: Queries) => Promise<string>,
  ): Promise<{ recoveryCodes: string[] }> {
    return db.transaction(async (tx) => {
      const sentence = await add(tx);
      const recoveryCodes =
        (await countRecoveryCodes(tx, caller.id)) === 0
          ? await renewRecoveryCodes(tx, caller.id)
          : [];
      await endOtherSessions(tx, caller.id, session ?? "");
      await tellChange(tx, caller, sentence);
      return { recoveryCodes };
    });
  }

  /** Removes a way to do the second step; with the last one its recovery codes go, too. */
  function removing(
    caller: Caller,
    remove: (tx: Queries) => Promise<string | undefined>,
  ): Promise<void> {
    return db.transaction(async (tx) => {
      const sentence = await remove(tx);
      if (sentence === undefined) return;
      const { code, passkeys } = await secondStepsOf(tx, caller.id);
      if (!code && passkeys.length === 0) {
        if (needsTwoSteps(await wanted(tx), caller.role))
          throw new Refusal(409, "two-step/required", t("twoStep.yourSchoolAsksYourAccount"));
        await removeSecondSteps(tx, caller.id);
      }
      await tellChange(tx, caller, sentence);
    });
  }

  async function tellChange(tx: Queries, caller: Caller, sentence: string): Promise<void> {
    await tellOwner(tx, settings, caller, `${sentence}.`);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change sign-in",
      sentence: `${sentence.replace(/your account$/, `the account of ${caller.name}`)}`,
    });
  }
}

async function wanted(db: Queries): Promise<(typeof house.$inferSelect)["twoStep"]> {
  const [own] = await db.select({ twoStep: house.twoStep }).from(house);
  return own?.twoStep ?? "nobody";
}

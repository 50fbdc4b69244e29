import { and, eq } from "drizzle-orm";
import type { Context as HonoContext, Hono } from "hono";
import type { z } from "zod";
import {
  getMe,
  getStartPage,
  postDemoSignIn,
  postSetUp,
  postSignIn,
  postSignOut,
  type StartPage,
} from "@amigo/contract/accounts";
import type { HouseRole } from "@amigo/core/access/may";
import type { Context } from "../context";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import { networkAddress } from "../http/networkAddress";
import { forgetSecret, readSecret } from "../http/cookies";
import { route } from "../http/route";
import { passkeysWork } from "../twoStep/passkeys";
import { secondStepsOf, stepBehind } from "../twoStep/queries";
import { setUpHouse } from "./setUpHouse";
import { isWithinTries } from "../http/limitTries";
import { asksFromHere, setUpCode } from "./setUpCode";
import { beginSession, passFirstStep } from "./beginSession";
import { checkPassword, endSession } from "./signIn";
import { t, type TextId } from "../texts/t";
import { accountInForce } from "../callers/inForce";
import { house, season, site, picture } from "../db/schema/house";
import { account, passkey } from "../db/schema/accounts";

const ROLE_WORDS: Readonly<Record<HouseRole, TextId>> = {
  coordinator: "accounts.coordinator",
  "site coordinator": "accounts.siteCoordinator",
  staff: "accounts.coach",
  helper: "accounts.helperOfOneSheet",
};

/** How many set-up codes may be tried an hour from one network. */
const CODES_TRIED = 10;

export function accountRoutes(app: Hono, context: Context): void {
  const { db, settings } = context;

  route(app, context, getStartPage, async ({ http }) => {
    const [found] = await db.select().from(house);
    const demo =
      found?.demo === true
        ? await db
            .select({
              name: account.name,
              email: account.email,
              role: account.role,
              site: site.name,
            })
            .from(account)
            .leftJoin(site, eq(site.id, account.siteId))
            .where(accountInForce)
            .orderBy(account.createdAt)
        : [];
    return {
      setUp: found !== undefined,
      needsCode: found === undefined && !asksFromHere(http),
      house: found?.name ?? "",
      picture: await pictureAddress(),
      secondStep: await secondStepAt(http),
      passkeys: passkeysWork(settings) && (await db.$count(passkey)) > 0,
      demoAccounts: demo.map(({ name, email, role, site: at }) => ({
        name,
        email,
        what: t("accounts.roleAt", { role: t(ROLE_WORDS[role]), site: at }),
      })),
    };
  });

  route(app, context, postSetUp, async ({ body, http }) => {
    if (!asksFromHere(http)) {
      const from = networkAddress(http, settings);
      if (!(await isWithinTries(db, `set up from ${from}`, CODES_TRIED, 60)))
        throw new Refusal(429, "set-up/too-many", t("accounts.tooManyCodesWereTried"));
      if (body.code.toUpperCase() !== setUpCode(context.dkim))
        throw new Refusal(403, "set-up/code", t("accounts.thisIsNotTheSet"), "code");
    }
    const id = await setUpHouse(db, body);
    await beginSession(context, http, id);
    return { done: true as const };
  });

  route(app, context, postSignIn, async ({ body, http }) => {
    const found = await checkPassword(
      db,
      body.email,
      body.password,
      networkAddress(http, settings),
    );
    return { done: await passFirstStep(context, http, found, t("shared.signedIn")) };
  });

  route(app, context, postDemoSignIn, async ({ body, http }) => {
    const [found] = await db
      .select({ id: account.id, name: account.name, demo: house.demo })
      .from(account)
      .innerJoin(house, eq(house.id, 1))
      .where(and(eq(account.email, body.email), accountInForce));
    if (found?.demo !== true)
      throw new Refusal(403, "sign-in/no-demo", t("accounts.signingInByOneClick"));
    return { done: await passFirstStep(context, http, found, t("accounts.signedInByOneClick")) };
  });

  route(app, context, postSignOut, async ({ http }) => {
    const token = readSecret(http, settings, "session");
    if (token !== undefined) await endSession(db, token);
    forgetSecret(http, settings, "session");
    await notify(db, "house");
    return { done: true as const };
  });

  route(app, context, getMe, async ({ caller }) => {
    const [found] = await db.select().from(house);
    const [current] = await db.select().from(season).where(eq(season.current, true));
    const [at] =
      caller.siteId === null ? [] : await db.select().from(site).where(eq(site.id, caller.siteId));
    if (found === undefined || current === undefined)
      throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
    return {
      id: caller.id,
      name: caller.name,
      email: caller.email,
      role: caller.role,
      site: at?.name ?? null,
      house: found.name,
      insideDomain: found.insideDomain,
      listDomain: found.listDomain,
      season: current.label,
      timeZone: found.timeZone,
      kind: found.kind,
      country: found.country,
      language: found.language,
      demo: found.demo,
      mustSetUpTwoStep: caller.mustSetUpTwoStep ?? false,
      mailtown: found.demo ? `http://localhost:${settings.mailtownPort}` : null,
    };
  });

  /** Returns where the picture of the house is, another address after each change; empty where it has none. */
  async function pictureAddress(): Promise<string> {
    const [found] = await db.select({ changedAt: picture.changedAt }).from(picture);
    return found === undefined ? "" : `/api/house/picture?of=${found.changedAt.getTime()}`;
  }

  /** By what the sign-in that is under way in a browser can be finished; null where there is none. */
  async function secondStepAt(
    http: HonoContext,
  ): Promise<z.output<typeof StartPage>["secondStep"]> {
    const step = await stepBehind(db, readSecret(http, settings, "step"), "sign-in");
    if (step === undefined || step.accountId === null) return null;
    const { code, passkeys, recoveryCodes } = await secondStepsOf(db, step.accountId);
    return [
      ...(code ? (["code"] as const) : []),
      ...(passkeys.length > 0 && passkeysWork(settings) ? (["passkey"] as const) : []),
      ...(recoveryCodes > 0 ? (["recovery code"] as const) : []),
    ];
  }
}

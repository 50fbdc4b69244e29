import type { Context as HonoContext } from "hono";
import type { z } from "zod";
import { type StartPage, type getStartPage } from "@amigo/contract/accounts";
import type { HouseRole } from "@amigo/core/access/may";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { passkey } from "../db/schema/accounts";
import { readSecret } from "../http/cookies";
import type { Request, Answer } from "../http/handler";
import { type TextId, t } from "../texts/t";
import { passkeysWork } from "../twoStep/passkeys";
import { stepBehind, secondStepsOf } from "../twoStep/queries";
import { asksFromHere } from "./setUpCode";
import { loadHouse } from "../db/houseQueries";
import { pictureVersion, listDemoAccounts } from "./queries";

const ROLE_WORDS: Readonly<Record<HouseRole, TextId>> = {
  coordinator: "accounts.coordinator",
  "site coordinator": "accounts.siteCoordinator",
  staff: "accounts.coach",
  helper: "accounts.helperOfOneSheet",
};

/** Returns where the picture of the house is, another address after each change; empty where it has none. */
async function pictureAddress(db: Database): Promise<string> {
  const found = await pictureVersion(db);
  return found === undefined ? "" : `/api/house/picture?of=${found.changedAt.getTime()}`;
}

/** By what the sign-in that is under way in a browser can be finished; null where there is none. */
async function secondStepAt(
  context: Context,
  http: HonoContext,
): Promise<z.output<typeof StartPage>["secondStep"]> {
  const { db, settings } = context;
  const step = await stepBehind(db, readSecret(http, settings, "step"), "sign-in");
  if (step === undefined || step.accountId === null) return null;
  const { code, passkeys, recoveryCodes } = await secondStepsOf(db, step.accountId);
  return [
    ...(code ? (["code"] as const) : []),
    ...(passkeys.length > 0 && passkeysWork(settings) ? (["passkey"] as const) : []),
    ...(recoveryCodes > 0 ? (["recovery code"] as const) : []),
  ];
}

/** Returns what the page shows before anybody is signed in. */
export async function showStartPage(
  context: Context,
  { http }: Request<typeof getStartPage>,
): Promise<Answer<typeof getStartPage>> {
  const { db, settings } = context;
  const found = await loadHouse(db);
  const demo = found?.demo === true ? await listDemoAccounts(db) : [];
  return {
    setUp: found !== undefined,
    needsCode: found === undefined && !asksFromHere(http),
    house: found?.name ?? "",
    picture: await pictureAddress(db),
    secondStep: await secondStepAt(context, http),
    passkeys: passkeysWork(settings) && (await db.$count(passkey)) > 0,
    demoAccounts: demo.map(({ name, email, role, site: at }) => ({
      name,
      email,
      what: t("accounts.roleAt", { role: t(ROLE_WORDS[role]), site: at }),
    })),
  };
}

import { type getTwoStep } from "@amigo/contract/twoStep";
import { needsTwoSteps } from "@amigo/core/access/twoStep";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { passkeysWork } from "./passkeys";
import { secondStepsOf, mailProgramsOf, whoNeedsTwoSteps } from "./queries";
import { findAuthenticator } from "./methodQueries";

/** Returns how the asker's sign-in is protected. */
export async function showTwoStep(
  { db, settings }: Context,
  { caller }: Request<typeof getTwoStep>,
): Promise<Answer<typeof getTwoStep>> {
  const row = await findAuthenticator(db, caller.id);
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
    isRequired: needsTwoSteps(await whoNeedsTwoSteps(db), caller.role),
    passkeysWork: passkeysWork(settings),
    mailPrograms: await mailProgramsOf(db, caller.id),
  };
}

import { orRefuse } from "../http/fault";
import type { postResetTwoStep } from "@amigo/contract/twoStep";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { removeSecondSteps } from "../twoStep/queries";
import { tellOwner } from "../twoStep/tellOwner";
import { removeSessions } from "../accounts/queries";
import { findChangeableAccount } from "./findChangeableAccount";

/** Removes somebody's authenticator app, passkeys and recovery codes, after they lost them. */
export async function resetTwoStep(
  { db, settings }: Context,
  { params, caller }: Request<typeof postResetTwoStep>,
): Promise<Answer<typeof postResetTwoStep>> {
  const row = orRefuse(await findChangeableAccount(db, params.id, caller));
  await db.transaction(async (tx) => {
    await removeSecondSteps(tx, row.id);
    await removeSessions(tx, row.id);
    await tellOwner(tx, settings, row, () =>
      t("staff.resetTheTwoStepSign2", { name: caller.name }),
    );
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "reset two-step sign-in",
      sentence: () => t("staff.resetTheTwoStepSign", { name: caller.name, colleague: row.name }),
    });
  });
  return { done: true as const };
}

import { type postRecoveryCodes } from "@amigo/contract/twoStep";
import { confirmPassword } from "../accounts/confirmPassword";
import type { Context } from "../context";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { secondStepsOf, renewRecoveryCodes } from "./queries";
import { tellChange } from "./tellChange";

/** Makes new recovery codes; the old ones stop working. */
export async function makeNewRecoveryCodes(
  context: Context,
  { body, caller, http }: Request<typeof postRecoveryCodes>,
): Promise<Answer<typeof postRecoveryCodes>> {
  const { db, settings } = context;
  await confirmPassword(context, http, caller, body.password, "password");
  const { code, passkeys } = await secondStepsOf(db, caller.id);
  if (!code && passkeys.length === 0)
    throw new Refusal(409, "two-step/none", t("twoStep.recoveryCodesAreForWhen"));
  return db.transaction(async (tx) => {
    const recoveryCodes = await renewRecoveryCodes(tx, caller.id);
    await tellChange(settings, tx, caller, (whose) =>
      t("twoStep.newRecoveryCodesWereMade", { whose }),
    );
    return { recoveryCodes };
  });
}

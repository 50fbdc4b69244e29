import { refused, type Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { needsTwoSteps } from "@amigo/core/access/twoStep";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { t } from "../texts/t";
import { secondStepsOf, removeSecondSteps, whoNeedsTwoSteps } from "./queries";
import { tellChange, type Changed } from "./tellChange";

/** Removes a way to do the second step; with the last one its recovery codes go, too. */
export function removeSecondStep(
  context: Context,
  caller: Caller,
  remove: (tx: Queries) => Promise<Changed | undefined>,
): Promise<Refused | undefined> {
  const { db, settings } = context;
  return inTransaction(db, async (tx) => {
    const changed = await remove(tx);
    if (changed === undefined) return;
    const { code, passkeys } = await secondStepsOf(tx, caller.id);
    if (!code && passkeys.length === 0) {
      if (needsTwoSteps(await whoNeedsTwoSteps(tx), caller.role))
        return refused(409, "two-step/required", t("twoStep.yourSchoolAsksYourAccount"));
      await removeSecondSteps(tx, caller.id);
    }
    await tellChange(settings, tx, caller, changed);
  });
}

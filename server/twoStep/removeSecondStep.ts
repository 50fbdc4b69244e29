import { needsTwoSteps } from "@amigo/core/access/twoStep";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { Refusal } from "../http/fault";
import { t } from "../texts/t";
import { secondStepsOf, removeSecondSteps, whoNeedsTwoSteps } from "./queries";
import { tellChange } from "./tellChange";

/** Removes a way to do the second step; with the last one its recovery codes go, too. */
export function removeSecondStep(
  context: Context,
  caller: Caller,
  remove: (tx: Queries) => Promise<string | undefined>,
): Promise<void> {
  const { db, settings } = context;
  return db.transaction(async (tx) => {
    const sentence = await remove(tx);
    if (sentence === undefined) return;
    const { code, passkeys } = await secondStepsOf(tx, caller.id);
    if (!code && passkeys.length === 0) {
      if (needsTwoSteps(await whoNeedsTwoSteps(tx), caller.role))
        throw new Refusal(409, "two-step/required", t("twoStep.yourSchoolAsksYourAccount"));
      await removeSecondSteps(tx, caller.id);
    }
    await tellChange(settings, tx, caller, sentence);
  });
}

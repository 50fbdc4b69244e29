import { type putTwoStepFor } from "@amigo/contract/twoStep";
import type { Context } from "../context";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { secondStepsOf, storeTwoStepFor, whoNeedsTwoSteps } from "./queries";

/** Returns whose sign-in needs a second step. */
export async function requireTwoStep(
  { db }: Context,
  { body, caller }: Request<typeof putTwoStepFor>,
): Promise<Answer<typeof putTwoStepFor>> {
  const { code, passkeys } = await secondStepsOf(db, caller.id);
  if (body.twoStep !== "nobody" && !code && passkeys.length === 0)
    throw new Refusal(409, "two-step/yourself-first", t("twoStep.setUpTwoStepSign"));
  await db.transaction(async (tx) => {
    const before = await whoNeedsTwoSteps(tx);
    await storeTwoStepFor(tx, body.twoStep);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change the house",
      sentence: () => t("twoStep.setWhoNeedsTwoStep", { name: caller.name, twoStep: body.twoStep }),
      before: { twoStep: before },
      after: body,
    });
    await notify(tx, "house");
  });
  return { done: true as const };
}

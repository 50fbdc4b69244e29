import { orRefuse } from "../http/fault";
import type { getIntakes, getIntake } from "@amigo/contract/intakes";
import { callerMay } from "../callers/caller";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { intakeLines, intakePage, loadIntake } from "./queries";

/** Returns the intakes that the asker fills, looks after or approves. */
export async function showIntakes(
  { db }: Context,
  { caller }: Request<typeof getIntakes>,
): Promise<Answer<typeof getIntakes>> {
  return {
    intakes: await intakeLines(db, caller),
    mayMake: callerMay(caller, "make intakes"),
  };
}

/** Returns one intake with its rows. */
export async function showIntake(
  { db }: Context,
  { params, caller }: Request<typeof getIntake>,
): Promise<Answer<typeof getIntake>> {
  return intakePage(db, orRefuse(await loadIntake(db, params.id, caller)), caller);
}

import { refuse, orRefuse } from "../http/fault";
import type { putBasics, putLimits } from "@amigo/contract/house";
import { LIMITS } from "@amigo/core/step/guards/limits";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { refuseStale, versionOf } from "../http/version";
import { record } from "../events/record";
import { t } from "../texts/t";
import { changeBasics } from "./changeBasics";
import { renewSeasons, storeLimits } from "./queries";
import { lockHouse } from "../db/houseQueries";

/** Changes what the house is called, where it is, its domains and the codes of its sites. */
export async function saveBasics(
  context: Context,
  { body, caller }: Request<typeof putBasics>,
): Promise<Answer<typeof putBasics>> {
  const { db } = context;
  const changed = orRefuse(await changeBasics(db, caller, body));
  refuse(await context.desk.run("reopenRound", undefined));
  return changed;
}

/** Changes what a round may do before a safety check stops it. */
export async function changeLimits(
  context: Context,
  { body: { version, ...body }, caller }: Request<typeof putLimits>,
): Promise<Answer<typeof putLimits>> {
  const { db } = context;
  await db.transaction(async (tx) => {
    const before = await lockHouse(tx);
    refuseStale({ ...LIMITS, ...before?.limits }, version);
    await storeLimits(tx, body);
    await renewSeasons(tx);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change limits",
      sentence: () => t("house.changedTheSafetyChecks", { name: caller.name }),
      before: before?.limits,
      after: body,
    });
  });
  refuse(await context.desk.run("reopenRound", undefined));
  return { version: versionOf(body) };
}

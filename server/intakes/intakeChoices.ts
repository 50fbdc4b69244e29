import { type getIntakeChoices } from "@amigo/contract/intakes";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { changeableBy } from "../membership/scope";
import { targetsOf } from "./queries";
import { listNames } from "../accounts/queries";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** Returns the lists that an intake of the asker's can be for, and who can fill it. */
export async function listIntakeChoices(
  { db }: Context,
  { caller }: Request<typeof getIntakeChoices>,
): Promise<Answer<typeof getIntakeChoices>> {
  const accounts = await listNames(db);
  return {
    lists: await targetsOf(db, (await needCurrentSeason(db)).id, [], changeableBy(caller)),
    accounts,
    every: caller.role === "coordinator",
  };
}

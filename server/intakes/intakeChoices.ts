import { type getIntakeChoices } from "@amigo/contract/intakes";
import { accountInForce } from "../callers/inForce";
import type { Context } from "../context";
import { account } from "../db/schema/accounts";
import type { Request, Answer } from "../http/handler";
import { changeableBy } from "../membership/scope";
import { currentSeason } from "./currentSeason";
import { targetsOf } from "./queries";

export async function listIntakeChoices(
  { db }: Context,
  { caller }: Request<typeof getIntakeChoices>,
): Promise<Answer<typeof getIntakeChoices>> {
  const accounts = await db
    .select({ id: account.id, name: account.name })
    .from(account)
    .where(accountInForce)
    .orderBy(account.name);
  return {
    lists: await targetsOf(db, await currentSeason(db), [], changeableBy(caller)),
    accounts,
    every: caller.role === "coordinator",
  };
}

import { type getReach } from "@amigo/contract/mail";
import { callerMay } from "../callers/caller";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { listOpenBrakes } from "../mail/brakeQueries";
import { t } from "../texts/t";
import { reachOf } from "./reach";

/** Returns who can be reached, by class and over time, and which addresses fail. */
export async function showReach(
  { db }: Context,
  { caller }: Request<typeof getReach>,
): Promise<Answer<typeof getReach>> {
  const brakes = callerMay(caller, "change the house") ? await listOpenBrakes(db) : [];
  return {
    ...(await reachOf(db, caller)),
    brakes: brakes.map(({ id, at, scope, about, words, addresses, title }) => ({
      ...{ id, scope, words, addresses },
      at: new Date(at).toISOString(),
      about: title ?? (scope === "mail" ? t("mail.aMail") : about),
    })),
  };
}
